/** Where a set stands outside: links, what has changed since, and the responses that come back. */
import { Controller, Get, Header, HttpCode, Param, Post } from '@nestjs/common';
import { ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import { EntityManager } from '@mikro-orm/postgresql';
import { type Item, mark, type Pulled, type QuizSet, type Response, serviceOf, type Settings } from '@zakuska/core';
import QRCode from 'qrcode';
import { Access, Gives } from '../accounts/access.js';
import { AttemptView } from '../deliveries/deliveries.js';
import { personOf } from '../deliveries/entities.js';
import { gone, Problem } from '../platform/problem.js';
import { ofCore } from '../platform/schemas.js';
import { Documents } from '../sets/documents.js';
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
  @ApiProperty() createdAt!: string;
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
}

const BY_NAME = 'somebody';

@ApiTags('connections')
@Controller()
export class PlacementsController {
  constructor(
    private readonly em: EntityManager,
    private readonly documents: Documents,
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
    const items = pieces.map((p) => p.content);
    const { language } = (await this.documents.read(em, placement.set.id)).document.set;
    const before = await em.count(PulledResponse, { placement: id });
    for (const r of page.responses) {
      const row = marked(r, items, language);
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
    const placed = (await em.find(PlacedPiece, { placement: id })).filter((p) => p.content);
    const { set } = (await this.documents.read(em, placement.set.id)).document;
    const at = new Map(set.items.map((i, n) => [i.id, n]));
    const place = (p: PlacedPiece): number => at.get(p.item ?? '') ?? set.items.length;
    const items = placed.sort((a, b) => place(a) - place(b)).map((p) => p.content as Item);
    const all = await em.find(PulledResponse, { placement: id }, { orderBy: { points: 'desc', name: 'asc' } });
    const times = new Map<string, number>();
    const turn = new Map<string, number>();
    for (const r of [...all].sort((a, b) => a.at.getTime() - b.at.getTime())) {
      const person = personOf(r.mail ?? r.name);
      // nobody's name is no person
      const n = r.mail || r.name !== BY_NAME ? (times.get(person) ?? 0) + 1 : 1;
      times.set(person, n);
      turn.set(r.remote, n);
    }
    const { sections: _s, assets, ...head } = set;
    return {
      placement: await this.view(em, placement),
      set: { ...head, title: placement.title, items, ...(assets && { assets }) },
      attempts: all.map((r) => ({
        id: r.remote,
        name: r.mail && r.name === BY_NAME ? r.mail : r.name,
        attempt: turn.get(r.remote) ?? 1,
        startedAt: r.at.toISOString(),
        submittedAt: r.at.toISOString(),
        points: r.points,
        marks: r.marks,
        responses: r.responses,
      })),
      otherwise: all.filter((r) => Object.entries(r.theirs).some(([key, given]) => given !== null && Math.abs(given - (r.marks[key]?.points ?? 0)) > 0.01))
        .length,
    };
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
      pieces: pieces.map(({ key, item, print }) => ({ key, item: item ?? key, print })),
      pulls: Boolean(serviceOf(p.service)?.pullResponses),
      responses: await em.count(PulledResponse, { placement: p.id }),
      ...(p.pulledAt && { pulledAt: p.pulledAt.toISOString() }),
      createdAt: p.createdAt.toISOString(),
    };
  }
}

/** A response as it is kept, marked by the items it was given to. */
function marked(
  r: Pulled,
  items: readonly Item[],
  language: string | undefined,
): Pick<PulledResponse, 'remote' | 'name' | 'mail' | 'at' | 'responses' | 'marks' | 'points' | 'theirs'> {
  const responses: Record<string, Response> = r.responses;
  const marks = Object.fromEntries(items.flatMap((i) => (i.kind === 'information' ? [] : [[i.id, mark(i, responses[i.id] ?? null, language)]])));
  const points = Math.round(Object.values(marks).reduce((s, m) => s + m.points, 0) * 1e4) / 1e4;
  return { remote: r.id, name: r.name?.trim() || BY_NAME, mail: r.mail?.trim() || null, at: new Date(r.at), responses, marks, points, theirs: r.points };
}
