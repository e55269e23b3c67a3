import { Body, Controller, Get, Header, Param, Patch, Post } from '@nestjs/common';
import { mapOfCore, ofCore } from '../platform/schemas.js';
import { ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import { EntityManager } from '@mikro-orm/postgresql';
import type { Mark, QuizSet, Response } from '@zakuska/core';
import { ArrayMaxSize, IsArray, IsBoolean, IsIn, IsInt, IsOptional, IsString, Length, Max, Min } from 'class-validator';
import QRCode from 'qrcode';
import { Access, Gives } from '../accounts/access.js';
import { gone } from '../platform/problem.js';
import { settings } from '../platform/settings.js';
import { Published } from './published.js';
import { Publishing } from './publishing.js';
import { Attempt, attemptsOf, Delivery, shows, type Shows } from './entities.js';

const ATTEMPTS = { description: 'Attempts per person; 0 for any number. Where it is not said: one if the answers are shown, else any number.' };

class PublishBody {
  @ApiProperty({ enum: shows }) @IsIn(shows) shows!: Shows;
  @ApiPropertyOptional() @IsOptional() @IsString() @Length(1, 300) title?: string;
  @ApiPropertyOptional(ATTEMPTS) @IsOptional() @IsInt() @Min(0) @Max(100) attempts?: number;
  @ApiPropertyOptional({ description: 'A version of the set by its name; the whole set where it is not said.' })
  @IsOptional()
  @IsString()
  @Length(1, 60)
  version?: string;
  @ApiPropertyOptional({ description: 'One of the further languages of the set (BCP 47), or that with a "+" in front: both, beside one another.' })
  @IsOptional()
  @IsString()
  @Length(2, 36)
  language?: string;
  @ApiPropertyOptional({ type: [String], description: 'Further languages of the set that learners may choose beside its own.' })
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(20)
  @IsString({ each: true })
  @Length(2, 35, { each: true })
  choice?: string[];
}
class DeliveryPatch {
  @ApiPropertyOptional() @IsOptional() @IsBoolean() open?: boolean;
  @ApiPropertyOptional({ enum: shows }) @IsOptional() @IsIn(shows) shows?: Shows;
  @ApiPropertyOptional(ATTEMPTS) @IsOptional() @IsInt() @Min(0) @Max(100) attempts?: number;
}
class DeliveryView {
  @ApiProperty() id!: string;
  @ApiProperty() title!: string;
  @ApiProperty({ description: 'The version of the set that it is; empty for the whole set.' }) version!: string;
  @ApiProperty({ description: 'The language that it is in; empty for that of the set, with a "+" in front for both.' }) language!: string;
  @ApiProperty({ type: [String], description: 'Further languages that learners may choose.' }) choice!: string[];
  @ApiProperty() code!: string;
  @ApiProperty() link!: string;
  @ApiProperty({ enum: shows }) shows!: Shows;
  @ApiProperty({ description: 'Attempts per person; 0 for any number.' }) attempts!: number;
  @ApiProperty() open!: boolean;
  @ApiProperty() createdAt!: string;
  @ApiProperty() items!: number;
  @ApiProperty() points!: number;
  @ApiProperty() responses!: number;
}
export class AttemptView {
  @ApiProperty() id!: string;
  @ApiProperty() name!: string;
  @ApiProperty({ description: 'Which attempt of the person it is, in the order of handing in: 1, 2, …' }) attempt!: number;
  @ApiPropertyOptional({ description: 'The name under which the same device handed in before.' }) sameDeviceAs?: string;
  @ApiProperty() startedAt!: string;
  @ApiProperty() submittedAt!: string;
  @ApiProperty() points!: number;
  @ApiProperty(mapOfCore('Mark')) marks!: Record<string, Mark>;
  @ApiProperty(mapOfCore('Response')) responses!: Record<string, Response>;
}
class ResultsView {
  @ApiProperty({ type: DeliveryView }) delivery!: DeliveryView;
  @ApiProperty(ofCore('QuizSet', 'The set as it was published.')) set!: QuizSet;
  @ApiProperty({ type: [AttemptView] }) attempts!: AttemptView[];
  @ApiProperty({ description: 'Learners who have begun and not submitted.' }) underWay!: number;
}

export const linkOf = (d: Delivery): string => `${settings().publicUrl}/t/${d.code}`;

@ApiTags('deliveries')
@Controller()
export class DeliveriesController {
  constructor(
    private readonly em: EntityManager,
    private readonly publishing: Publishing,
    private readonly published: Published,
  ) {}

  @Get('sets/:set/deliveries')
  @Gives([DeliveryView])
  @Access('reader')
  async list(@Param('set') setId: string): Promise<DeliveryView[]> {
    const em = this.em.fork();
    const all = await em.find(Delivery, { set: setId }, { orderBy: { createdAt: 'desc' } });
    return Promise.all(all.map((d) => this.view(em, d)));
  }

  /** Publishes the items as they are now; later edits of the set do not change a delivery. */
  @Post('sets/:set/deliveries')
  @Gives(DeliveryView)
  @Access('editor')
  async publish(@Param('set') setId: string, @Body() body: PublishBody): Promise<DeliveryView> {
    return this.view(this.em.fork(), await this.publishing.publish(setId, body));
  }

  @Patch('deliveries/:delivery')
  @Gives(DeliveryView)
  @Access('editor')
  async change(@Param('delivery') id: string, @Body() body: DeliveryPatch): Promise<DeliveryView> {
    const em = this.em.fork();
    const d = await em.findOne(Delivery, { id });
    if (!d) throw gone('delivery');
    if (body.open !== undefined) d.open = body.open;
    if (body.shows !== undefined) d.shows = body.shows;
    if (body.attempts !== undefined) d.attempts = body.attempts;
    await em.flush();
    return this.view(em, d);
  }

  @Get('deliveries/:delivery/qr.svg')
  @Header('content-type', 'image/svg+xml')
  @Access('reader')
  async qr(@Param('delivery') id: string): Promise<string> {
    const d = await this.em.fork().findOne(Delivery, { id });
    if (!d) throw gone('delivery');
    return QRCode.toString(linkOf(d), { type: 'svg', margin: 2, errorCorrectionLevel: 'M' });
  }

  @Get('deliveries/:delivery/results')
  @Gives(ResultsView)
  @Access('reader')
  async results(@Param('delivery') id: string): Promise<ResultsView> {
    const em = this.em.fork();
    const d = await em.findOne(Delivery, { id });
    if (!d) throw gone('delivery');
    const attempts = await em.find(Attempt, { delivery: id, submittedAt: { $ne: null } }, { orderBy: { points: 'desc', name: 'asc' } });
    const repeats = repeatsOf(attempts);
    return {
      delivery: await this.view(em, d),
      set: (await this.published.of(d.id)).set,
      underWay: await em.count(Attempt, { delivery: id, submittedAt: null }),
      attempts: attempts.map((a) => ({
        id: a.id,
        name: a.name,
        ...repeats.get(a.id)!,
        startedAt: a.startedAt.toISOString(),
        submittedAt: (a.submittedAt ?? a.startedAt).toISOString(),
        points: a.points ?? 0,
        marks: a.marks ?? {},
        responses: a.responses,
      })),
    };
  }

  private async view(em: EntityManager, d: Delivery): Promise<DeliveryView> {
    const { set, points } = await this.published.of(d.id);
    return {
      id: d.id,
      title: d.title,
      version: d.version,
      language: d.language,
      choice: Object.keys(set.translations ?? {}),
      code: d.code,
      link: linkOf(d),
      shows: d.shows,
      attempts: attemptsOf(d),
      open: d.open,
      createdAt: d.createdAt.toISOString(),
      items: set.items.length,
      points,
      responses: await em.count(Attempt, { delivery: d.id, submittedAt: { $ne: null } }),
    };
  }
}

/** Of each attempt: which of its person it is, and who handed in before on the same device. */
function repeatsOf(attempts: readonly Attempt[]): Map<string, { attempt: number; sameDeviceAs?: string }> {
  const times = new Map<string, number>();
  const devices = new Map<string, Attempt>();
  const out = new Map<string, { attempt: number; sameDeviceAs?: string }>();
  const inOrder = attempts.slice().sort((a, b) => (a.submittedAt?.getTime() ?? 0) - (b.submittedAt?.getTime() ?? 0));
  for (const a of inOrder) {
    const attempt = (times.get(a.person) ?? 0) + 1;
    times.set(a.person, attempt);
    const before = a.device ? devices.get(a.device) : undefined;
    out.set(a.id, { attempt, ...(before && before.person !== a.person && { sameDeviceAs: before.name }) });
    if (a.device && !before) devices.set(a.device, a);
  }
  return out;
}
