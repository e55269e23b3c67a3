/** Where a set stands outside: links, what has changed since, and the responses that come back. */
import { createHash } from 'node:crypto';
import { Body, Controller, Delete, Get, Header, HttpCode, Param, Post, Put } from '@nestjs/common';
import { ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import { EntityManager } from '@mikro-orm/postgresql';
import {
  countingOf,
  type Item,
  item as itemSchema,
  judgedMarks,
  type Judging,
  keptOf,
  keptShare,
  lookUp,
  type OutsideRules,
  outsideRules,
  pointsOf,
  type Pulled,
  type QuizSet,
  type Response,
  response as responseSchema,
  sanitiseFields,
  serviceOf,
  type Settings,
  storable,
} from '@zakuska/core';
import { Type } from 'class-transformer';
import { ArrayMaxSize, ArrayMinSize, IsArray, IsISO8601, IsObject, IsOptional, IsString, IsUUID, Length, ValidateNested } from 'class-validator';
import QRCode from 'qrcode';
import { Access, Gives, Me, type Signed } from '../accounts/access.js';
import { AttemptView } from '../deliveries/deliveries.js';
import { personOf } from '../deliveries/entities.js';
import { type AnswersOf, DecisionsBody, DecisionView, Marking, TakeBackBody } from '../deliveries/marking.js';
import { gone, Problem } from '../platform/problem.js';
import { mapOfCore, ofCore } from '../platform/schemas.js';
import { sql } from '../platform/sql.js';
import { Documents } from '../sets/documents.js';
import { SetRecord } from '../sets/entities.js';
import { PlacedPiece, Placement, PulledResponse } from './entities.js';
import { lineOf } from './line.js';
import { meansFor } from './means.js';

class PlacedView {
  @ApiProperty() key!: string;
  @ApiProperty() item!: string;
  @ApiProperty({ description: 'Changes with what was sent.' }) print!: string;
}
class PlacementView {
  @ApiProperty() id!: string;
  @ApiProperty() service!: string;
  @ApiProperty() container!: string;
  @ApiProperty() title!: string;
  @ApiProperty({ description: 'The version of the set that was pushed last; empty for the whole set.' }) version!: string;
  @ApiProperty({ description: 'The language that was pushed last; empty for that of the set.' }) language!: string;
  @ApiProperty() link!: string;
  @ApiProperty({ type: 'object', additionalProperties: { type: 'string' }, description: 'Further addresses, by what they are for.' })
  links!: Record<string, string>;
  @ApiProperty({ type: 'object', additionalProperties: true, description: 'How the last push to it was set.' })
  settings!: Settings;
  @ApiProperty({ type: [PlacedView] }) pieces!: PlacedView[];
  @ApiProperty({ description: 'Whether responses can be fetched from there.' }) pulls!: boolean;
  @ApiProperty() responses!: number;
  @ApiPropertyOptional({ description: 'When responses were fetched last.' }) pulledAt?: string;
  @ApiProperty(ofCore('OutsideRules', 'What is made of the answers that come back.')) rules!: OutsideRules;
  @ApiProperty() createdAt!: string;
}
class OutsideRulesBody {
  @ApiProperty(ofCore('OutsideRules')) @IsObject() rules!: OutsideRules;
}
class PullView {
  @ApiProperty({ description: 'Responses that came in since.' }) added!: number;
  @ApiProperty({ description: 'All that there are.' }) total!: number;
}
class PlacementResults {
  @ApiProperty({ type: PlacementView }) placement!: PlacementView;
  @ApiProperty(ofCore('QuizSet', 'The items as they stand there.')) set!: QuizSet;
  @ApiProperty({ type: [AttemptView] }) attempts!: AttemptView[];
  @ApiProperty({ description: 'Responses to which the service gave other points than are given here.' }) otherwise!: number;
  @ApiProperty({ type: [DecisionView], description: 'What was decided since, in order.' }) decisions!: DecisionView[];
}

/** People of a table that is kept. */
const MOST_PEOPLE = 5000;
class KeptPersonBody {
  @ApiProperty() @IsString() @Length(0, 300) name!: string;
  @ApiPropertyOptional() @IsOptional() @IsString() @Length(0, 300) mail?: string;
  @ApiPropertyOptional({ description: 'When they handed in.' }) @IsOptional() @IsISO8601() at?: string;
  @ApiProperty(mapOfCore('Response')) @IsObject() responses!: Record<string, Response>;
}
class KeepTableBody {
  @ApiProperty({ description: 'Made by the browser, so that sending again is known as the same.' }) @IsUUID() id!: string;
  @ApiProperty() @IsString() @Length(1, 300) title!: string;
  @ApiProperty({ type: 'array', items: ofCore('Item') as object, description: 'What the columns ask, with the keys to mark by.' })
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(500)
  @IsObject({ each: true })
  items!: Item[];
  @ApiProperty({ type: [KeptPersonBody] })
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(MOST_PEOPLE)
  @ValidateNested({ each: true })
  @Type(() => KeptPersonBody)
  people!: KeptPersonBody[];
}

const BY_NAME = 'somebody';
/** The service of placements that are tables of answers which somebody had. */
const TABLE = 'table';

@ApiTags('connections')
@Controller()
export class PlacementsController {
  constructor(
    private readonly em: EntityManager,
    private readonly documents: Documents,
    private readonly marking: Marking,
  ) {}

  @Get('sets/:set/placements')
  @Gives([PlacementView])
  @Access('reader')
  async list(@Param('set') setId: string): Promise<PlacementView[]> {
    const em = this.em.fork();
    const all = await em.find(Placement, { set: setId }, { orderBy: { createdAt: 'desc' }, limit: 100 });
    return Promise.all(all.map((p) => this.view(em, p)));
  }

  @Get('placements/:placement/qr.svg')
  @Header('content-type', 'image/svg+xml')
  @Access('reader')
  async qr(@Param('placement') id: string): Promise<string> {
    const { link } = await this.found(this.em.fork(), id);
    if (!link) throw gone('link');
    return QRCode.toString(link, { type: 'svg', margin: 2, errorCorrectionLevel: 'M' });
  }

  /** Fetches the responses that have come in since, each once, and marks them by the items as they stand there. */
  @Post('placements/:placement/pull')
  @HttpCode(200)
  @Gives(PullView)
  @Access('editor')
  async pull(@Param('placement') id: string): Promise<PullView> {
    const em = this.em.fork();
    const placement = await this.found(em, id, ['connection', 'set']);
    const service = serviceOf(placement.service);
    if (!service?.pullResponses) throw new Problem(422, 'no-responses', 'No responses can be fetched from this service.');
    if (!placement.connection) throw new Problem(422, 'connection-ended', 'The service is not connected. Connect it, then fetch again.');
    const pieces = (await em.find(PlacedPiece, { placement: id })).flatMap(({ key, remote, content }) => (content ? [{ key, remote, content }] : []));
    const page = await service.pullResponses(
      lineOf(em, service, placement.connection),
      placement.container,
      pieces,
      placement.cursor,
      meansFor(placement.set.id),
    );
    const judging = await this.marking.judging(await this.answersOf(em, placement), placement.judging);
    const before = await em.count(PulledResponse, { placement: id });
    const erased = await erasedOf(em, id);
    for (const r of page.responses) {
      if (erased.has(remoteHash(r.id))) continue;
      const row = { ...marked(r, judging), judging: placement.judging };
      // delivered twice, it is the same; so two who fetch at once do no harm
      await em.upsert(PulledResponse, { placement: id, ...row }, { onConflictFields: ['placement', 'remote'], onConflictAction: 'ignore' });
    }
    await em.nativeUpdate(Placement, { id }, { cursor: page.next, pulledAt: new Date() });
    const total = await em.count(PulledResponse, { placement: id });
    return { added: total - before, total };
  }

  @Get('placements/:placement/results')
  @Gives(PlacementResults)
  @Access('reader')
  async results(@Param('placement') id: string): Promise<PlacementResults> {
    const em = this.em.fork();
    const placement = await this.found(em, id, ['set']);
    const of = await this.answersOf(em, placement);
    await this.marking.markAnew(of);
    const all = await em.find(PulledResponse, { placement: id }, { orderBy: { points: 'desc', name: 'asc' } });
    const { late, counts } = placement.rules;
    const sat = all.map((r) => {
      const kept = late ? keptShare({ late }, r.at.getTime()) : 1;
      // nobody's name is no person, and no person is called as this is
      const person = r.mail || r.name !== BY_NAME ? personOf(r.mail ?? r.name) : ` ${r.remote}`;
      return { r, kept, person, points: keptOf(r.points, kept), at: r.at.getTime() };
    });
    const times = new Map<string, number>();
    const turn = new Map<string, number>();
    for (const { r, person } of sat.toSorted((a, b) => a.at - b.at)) {
      const n = (times.get(person) ?? 0) + 1;
      times.set(person, n);
      turn.set(r.remote, n);
    }
    const counting = new Map(counts ? [...countingOf(sat, counts).values()].map((c) => [c.attempt.r.remote, c.points]) : []);
    return {
      placement: await this.view(em, placement),
      set: of.set,
      decisions: await this.marking.decisions(em, of),
      attempts: sat.map(({ r, kept, points }) => ({
        id: r.remote,
        name: r.mail && r.name === BY_NAME ? r.mail : r.name,
        ...(r.mail && { mail: r.mail }),
        attempt: turn.get(r.remote) ?? 1,
        startedAt: r.at.toISOString(),
        submittedAt: r.at.toISOString(),
        points,
        ...(kept < 1 && { kept }),
        ...(counting.has(r.remote) && { counts: counting.get(r.remote) as number }),
        marks: r.marks,
        responses: r.responses,
      })),
      otherwise: all.filter((r) => Object.entries(r.theirs).some(([key, given]) => given !== null && Math.abs(given - (r.marks[key]?.points ?? 0)) > 0.01))
        .length,
    };
  }

  /** Keeps a table of answers that somebody had, marked by the items that come with it: its people are results of the set like all others. */
  @Post('sets/:set/tables')
  @Gives(PlacementView)
  @Access('editor')
  async keepTable(@Param('set') setId: string, @Body() body: KeepTableBody): Promise<PlacementView> {
    const items = body.items.map((i) => {
      const { data } = itemSchema.safeParse(sanitiseFields(i));
      if (!data) throw new Problem(400, 'item-invalid', 'One of the columns could not be made an item. Reload the page.');
      return data;
    });
    return this.em.fork().transactional(async (em) => {
      const there = await em.findOne(Placement, { id: body.id, set: setId });
      if (there) return this.view(em, there);
      const { document } = await this.documents.read(em, setId);
      const own = new Set(document.set.items.map((i) => i.id));
      const placement = em.create(Placement, {
        id: body.id,
        set: em.getReference(SetRecord, setId),
        service: TABLE,
        container: body.id,
        title: storable(body.title),
        link: '',
        pulledAt: new Date(),
      });
      await em.persistAndFlush(placement);
      // pieces are read in the order of their keys
      await em.insertMany(
        PlacedPiece,
        items.map((content, n) => ({
          placement: body.id,
          key: String(n).padStart(5, '0'),
          item: own.has(content.id) ? content.id : null,
          remote: '',
          print: '',
          content,
          push: body.id,
          became: 'arrived' as const,
        })),
      );
      const judging = await this.marking.judging(await this.answersOf(em, placement), 0);
      await em.insertMany(
        PulledResponse,
        body.people.map((p, n) => {
          const responses = Object.fromEntries(
            items.flatMap((i) => {
              const { data } = responseSchema.safeParse(lookUp(p.responses, i.id));
              return data ? [[i.id, sanitiseFields(data)]] : [];
            }),
          );
          const at = p.at ?? new Date().toISOString();
          return {
            placement: body.id,
            ...marked({ id: `row ${n + 1}`, name: storable(p.name), mail: storable(p.mail ?? ''), at, responses, points: {} }, judging),
          };
        }),
      );
      return this.view(em, placement);
    });
  }
  /** Says which of several answers of a person counts, and what being late costs; what is not said is as it came. */
  @Put('placements/:placement/rules')
  @Gives(PlacementView)
  @Access('editor')
  async rule(@Param('placement') id: string, @Body() body: OutsideRulesBody): Promise<PlacementView> {
    const { data } = outsideRules.safeParse(body.rules);
    if (!data) throw new Problem(400, 'rules-invalid', 'A rule has a value that it cannot have. Reload the page.');
    const em = this.em.fork();
    const placement = await this.found(em, id);
    placement.rules = data;
    await em.flush();
    return this.view(em, placement);
  }
  /** Removes a table that was kept, with all its answers. What stands at a service is not removed from here. */
  @Delete('placements/:placement')
  @HttpCode(204)
  @Access('editor')
  async remove(@Param('placement') id: string): Promise<void> {
    const em = this.em.fork();
    const placement = await this.found(em, id);
    if (placement.service !== TABLE) throw new Problem(422, 'not-a-table', 'This stands at a service. Remove it there.');
    await em.nativeDelete(Placement, { id });
  }

  /** Decides on answers that were fetched, as `deliveries/:delivery/decisions` does. */
  @Post('placements/:placement/decisions')
  @HttpCode(200)
  @Gives([DecisionView])
  @Access('marker')
  async decide(@Param('placement') id: string, @Body() { decisions }: DecisionsBody, @Me() me: Signed): Promise<DecisionView[]> {
    const em = this.em.fork();
    return this.marking.take(await this.answersOf(em, await this.found(em, id, ['set'])), decisions, me.account.id);
  }
  @Post('placements/:placement/decisions/back')
  @HttpCode(204)
  @Access('marker')
  async takeBack(@Param('placement') id: string, @Body() { ids }: TakeBackBody, @Me() me: Signed): Promise<void> {
    const em = this.em.fork();
    await this.marking.takeBack(await this.answersOf(em, await this.found(em, id, ['set'])), ids, me.account.id);
  }

  /** The items as they stand there, in the order of the set. */
  private async answersOf(em: EntityManager, placement: Placement): Promise<AnswersOf> {
    const placed = (await em.find(PlacedPiece, { placement: placement.id }, { orderBy: { key: 'asc' } })).filter((p) => p.content);
    const { set } = (await this.documents.read(em, placement.set.id)).document;
    const at = new Map(set.items.map((i, n) => [i.id, n]));
    const place = (p: PlacedPiece): number => at.get(p.item ?? '') ?? set.items.length;
    const items = placed.sort((a, b) => place(a) - place(b)).map((p) => p.content as Item);
    const { sections: _s, assets, ...head } = set;
    return { kind: 'placement', id: placement.id, set: { ...head, title: placement.title, items, ...(assets && { assets }) } };
  }

  private async found(em: EntityManager, id: string, populate: ('connection' | 'set')[] = []): Promise<Placement> {
    const p = await em.findOne(Placement, { id }, { populate });
    if (!p) throw gone('placement');
    return p;
  }

  private async view(em: EntityManager, p: Placement): Promise<PlacementView> {
    const pieces = await em.find(PlacedPiece, { placement: p.id, item: { $ne: null } }, { fields: ['key', 'item', 'print'] });
    return {
      id: p.id,
      service: p.service,
      container: p.container,
      title: p.title,
      version: p.version,
      language: p.language,
      link: p.link,
      links: p.links,
      settings: p.settings,
      rules: p.rules,
      pieces: pieces.map(({ key, item, print }) => ({ key, item: item ?? key, print })),
      pulls: Boolean(serviceOf(p.service)?.pullResponses),
      responses: await em.count(PulledResponse, { placement: p.id }),
      ...(p.pulledAt && { pulledAt: p.pulledAt.toISOString() }),
      createdAt: p.createdAt.toISOString(),
    };
  }
}

/** Responses that were deleted here are known by a hash of what the service calls them: they do not come again. */
const remoteHash = (remote: string): string => createHash('sha256').update(remote).digest('hex');
const erasedOf = async (em: EntityManager, placement: string): Promise<Set<string>> =>
  new Set((await sql<{ hash: string }>(em, 'select remote_hash as hash from erased_response where placement_id = ?', [placement])).map((e) => e.hash));

/** A response as it is kept, marked by the items it was given to and what was decided since. */
function marked(r: Pulled, judging: Judging): Pick<PulledResponse, 'remote' | 'name' | 'mail' | 'at' | 'responses' | 'marks' | 'points' | 'theirs'> {
  const responses: Record<string, Response> = r.responses;
  const marks = judgedMarks(judging, responses);
  return {
    remote: r.id,
    name: r.name?.trim() || BY_NAME,
    mail: r.mail?.trim() || null,
    at: new Date(r.at),
    responses,
    marks,
    points: pointsOf(marks),
    theirs: r.points,
  };
}
