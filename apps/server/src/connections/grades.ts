/** Scores on their way to the gradebook of a service: shown and agreed to by a person first, and of those sent before only what has changed. */
import { Body, Controller, Get, HttpCode, Param, Post } from '@nestjs/common';
import { ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import { EntityManager, LockMode } from '@mikro-orm/postgresql';
import { type Call, type Gradebook, newId, type Service, serviceOf, storable } from '@zakuska/core';
import { IsNumber, IsObject, IsString, IsUUID, Length, Max, Min } from 'class-validator';
import { Access, Gives, WorkspaceId } from '../accounts/access.js';
import { gone, Problem } from '../platform/problem.js';
import { SetRecord } from '../sets/entities.js';
import { Connection, GradeColumn } from './entities.js';
import { lineOf } from './line.js';
import { webAddress } from './webAddress.js';

class ListedView {
  @ApiProperty() id!: string;
  @ApiProperty() name!: string;
  @ApiPropertyOptional() mail?: string;
}
class GradebookView {
  @ApiProperty() id!: string;
  @ApiProperty() title!: string;
  @ApiProperty() link!: string;
  @ApiProperty({ type: [ListedView] }) people!: ListedView[];
}
class GradesBody {
  @ApiProperty() @IsUUID() connectionId!: string;
  @ApiProperty({ description: 'Where the responses are from: a delivery or a placement.' }) @IsUUID() source!: string;
  @ApiProperty() @IsString() @Length(1, 200) gradebook!: string;
  @ApiProperty({ description: 'What the column is called.' }) @IsString() @Length(1, 200) title!: string;
  @ApiProperty() @IsNumber() @Min(0) @Max(1_000_000) maximum!: number;
  @ApiProperty({ type: 'object', additionalProperties: { type: 'number' }, description: 'Scores by the ids of people in the gradebook.' })
  @IsObject()
  scores!: Record<string, number>;
}
class RefusedView {
  @ApiProperty() person!: string;
  @ApiProperty() reason!: string;
}
class GradesView {
  @ApiProperty() id!: string;
  @ApiProperty() source!: string;
  @ApiProperty() service!: string;
  @ApiProperty() gradebook!: string;
  @ApiProperty() gradebookTitle!: string;
  @ApiProperty() title!: string;
  @ApiProperty() link!: string;
  @ApiProperty({ type: 'object', additionalProperties: { type: 'number' }, description: 'What stands there from here, by person.' })
  sent!: Record<string, number>;
  @ApiPropertyOptional() sentAt?: string;
}
class GradesDone extends GradesView {
  @ApiProperty({ description: 'Scores that were put there now.' }) changed!: number;
  @ApiProperty({ type: [RefusedView] }) refused!: RefusedView[];
}

const MOST = 2000;

/** The gradebooks of a service, with addresses that a browser may be sent to. */
const booksOf = async (service: Service, call: Call): Promise<Gradebook[]> =>
  ((await service.gradebooks?.(call)) ?? []).map((b) => ({ ...b, link: webAddress(b.link) }));

@ApiTags('connections')
@Controller()
export class GradesController {
  constructor(private readonly em: EntityManager) {}

  /** Gradebooks of the service, with who is in them. */
  @Get('connections/:connection/gradebooks')
  @Gives([GradebookView])
  @Access('reader')
  async gradebooks(@Param('connection') id: string): Promise<Gradebook[]> {
    const em = this.em.fork();
    const connection = await em.findOne(Connection, { id });
    if (!connection) throw gone('connection');
    const service = serviceOf(connection.service);
    return service ? booksOf(service, lineOf(em, service, connection)) : [];
  }

  @Get('sets/:set/grades')
  @Gives([GradesView])
  @Access('reader')
  async list(@Param('set') setId: string): Promise<GradesView[]> {
    return (await this.em.fork().find(GradeColumn, { set: setId }, { orderBy: { createdAt: 'desc' } })).map(view);
  }

  /** Sends scores: those that are new or have changed since they were sent. */
  @Post('sets/:set/grades')
  @HttpCode(200)
  @Gives(GradesDone)
  @Access('editor')
  async send(@Param('set') setId: string, @Body() body: GradesBody, @WorkspaceId() workspaceId: string): Promise<GradesDone> {
    const em = this.em.fork();
    const connection = await em.findOne(Connection, { id: body.connectionId, workspace: workspaceId });
    if (!connection) throw gone('connection');
    const service = serviceOf(connection.service);
    const sendScores = service?.sendScores;
    if (!service?.gradebooks || !sendScores) throw new Problem(422, 'no-gradebook', 'Scores cannot be sent to this service.');
    const scores = Object.entries(body.scores);
    if (!scores.length || scores.length > MOST) throw new Problem(422, 'scores-count', `Send scores of 1 to ${MOST} people.`);
    if (!scores.every(([person, s]) => person && typeof s === 'number' && Number.isFinite(s))) throw new Problem(422, 'score-wrong', 'A score is a number.');
    const call = lineOf(em, service, connection);
    const book = (await booksOf(service, call)).find((g) => g.id === body.gradebook);
    if (!book) throw new Problem(422, 'gradebook-gone', 'This gradebook is not there any more. Choose another.');
    const key = { source: body.source, service: service.id, gradebook: book.id };
    // the row first, so that the request for the column has the same key whoever sends it
    await em.getConnection().execute(
      `insert into grade_column (id, set_id, source, service, gradebook, gradebook_title, link, title, maximum) values (?, ?, ?, ?, ?, ?, ?, ?, ?)
       on conflict (source, service, gradebook) do nothing`,
      [newId(), setId, key.source, key.service, key.gradebook, book.title, book.link, storable(body.title), body.maximum],
    );
    return em.transactional(async (inside) => {
      const row = await inside.findOneOrFail(GradeColumn, { ...key, set: inside.getReference(SetRecord, setId) }, { lockMode: LockMode.PESSIMISTIC_WRITE });
      const due = new Map(scores.filter(([person, s]) => row.sent[person] !== s));
      const done = due.size
        ? await sendScores(call, book.id, {
            ...(row.remote !== null && { column: row.remote }),
            // the column after one that was taken out is another one
            key: `${row.id} ${row.remote ?? 'first'}`,
            title: row.title,
            maximum: row.maximum,
            scores: due,
          })
        : { column: row.remote, refused: new Map<string, string>() };
      const taken = [...due].filter(([person]) => !done.refused.has(person));
      // in a column that was made anew nothing of before stands
      const before = row.remote === null || row.remote === done.column ? row.sent : {};
      Object.assign(row, {
        remote: done.column,
        sent: { ...before, ...Object.fromEntries(taken) },
        sentAt: new Date(),
        gradebookTitle: book.title,
        link: book.link,
      });
      await inside.flush();
      return { ...view(row), changed: taken.length, refused: [...done.refused].map(([person, reason]) => ({ person, reason })) };
    });
  }
}

const view = (g: GradeColumn): GradesView => ({
  id: g.id,
  source: g.source,
  service: g.service,
  gradebook: g.gradebook,
  gradebookTitle: g.gradebookTitle,
  title: g.title,
  link: g.link,
  sent: g.sent,
  ...(g.sentAt && { sentAt: g.sentAt.toISOString() }),
});
