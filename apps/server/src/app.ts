import { Controller, Get, Module, RequestMethod, ValidationPipe } from '@nestjs/common';
import { APP_FILTER, APP_GUARD } from '@nestjs/core';
import type { NestExpressApplication } from '@nestjs/platform-express';
import { ApiProperty, DocumentBuilder, type OpenAPIObject, SwaggerModule } from '@nestjs/swagger';
import { MikroOrmModule } from '@mikro-orm/nestjs';
import { Migrator } from '@mikro-orm/migrations';
import { EntityManager, MikroORM, PostgreSqlDriver } from '@mikro-orm/postgresql';
import cookieParser from 'cookie-parser';
import staticGzip from 'express-static-gzip';
import { json, urlencoded, type NextFunction, type Request, type Response } from 'express';
import helmet from 'helmet';
import { existsSync } from 'node:fs';
import path from 'node:path';
import { Logger, LoggerModule } from 'nestjs-pino';
import { Metrics } from './administration/metrics.js';
import { StateController } from './administration/state.js';
import { Access, AccessGuard, Gives } from './accounts/access.js';
import { AccountController } from './accounts/account.js';
import { SessionController } from './accounts/accounts.js';
import { AuditController } from './accounts/audit.js';
import { Account, AccountLink, LimitCount, Membership, Session, Workspace } from './accounts/entities.js';
import { ClassesController } from './classes/classes.js';
import { ClassList, ClassMember } from './classes/entities.js';
import { Links, LinksController } from './accounts/links.js';
import { MembersController } from './accounts/members.js';
import { ProviderController, SchoolProvider } from './accounts/provider.js';
import { RateLimit } from './accounts/rateLimit.js';
import { Sessions } from './accounts/sessions.js';
import { AssistantsController } from './assistant/assistants.js';
import { Asking } from './assistant/asking.js';
import { Ask, Assistant } from './assistant/entities.js';
import { ConnectionsController } from './connections/connections.js';
import { Authorization, Connection, GradeColumn, PlacedPiece, Placement, PulledResponse, Push, SentPicture } from './connections/entities.js';
import { GradesController } from './connections/grades.js';
import { PicturesController } from './connections/pictures.js';
import { PlacementsController } from './connections/placements.js';
import { PushesController } from './connections/pushes.js';
import { Pushing } from './connections/pushing.js';
import { Stopping } from './platform/stopping.js';
import { Changes } from './platform/changes.js';
import { Jobs } from './connections/jobs.js';
import { DeliveriesController } from './deliveries/deliveries.js';
import { Attempts } from './deliveries/attempts.js';
import { Attempt, Delivery } from './deliveries/entities.js';
import { Watching } from './deliveries/live.js';
import { Marking } from './deliveries/marking.js';
import { ProgressController } from './deliveries/progress.js';
import { Published } from './deliveries/published.js';
import { Publishing } from './deliveries/publishing.js';
import { TakeController } from './deliveries/take.js';
import { LexiconController } from './lexicon/lexicon.js';
import { PeopleController } from './people/people.js';
import { PrintController } from './print/print.js';
import { CoursesController } from './lti/courses.js';
import { LtiKey, LtiLaunch, LtiLink, LtiLogin, LtiPlatform } from './lti/entities.js';
import { LaunchesController } from './lti/launches.js';
import { PlatformsController } from './lti/platforms.js';
import { Scores } from './lti/scores.js';
import { Tool } from './lti/tool.js';
import { Outbox } from './mail/outbox.js';
import { migrationsList } from './migrations/index.js';
import { Db } from './platform/db.js';
import { Housekeeping } from './housekeeping.js';
import { databaseThere, migrate } from './platform/migrate.js';
import { Problem, ProblemFilter } from './platform/problem.js';
import { coreSchemas } from './platform/schemas.js';
import { TogetherController } from './sets/together.js';
import { unlessSame } from './platform/unlessSame.js';
import { settings } from './platform/settings.js';
import { safeToLog } from './platform/safeToLog.js';
import { Documents } from './sets/documents.js';
import { Drafts } from './sets/drafts.js';
import { Operations } from './sets/operations.js';
import { Summaries } from './sets/summaries.js';
import { OperationRecord, SetPoint, SetRecord } from './sets/entities.js';
import { HistoryController } from './sets/history.js';
import { ChecksController } from './accounts/checks.js';
import { Copies, CopiesController } from './sets/copies.js';
import { Folders, FoldersController } from './sets/folders.js';
import { SamplesController } from './sets/samples.js';
import { SetsController } from './sets/sets.js';
import { Sharing, SharingController } from './sets/sharing.js';
import { BankController } from './bank/bank.js';
import { NearController } from './bank/near.js';
import { ViewsController } from './bank/views.js';
import { KeptWish, RequestRecord } from './requests/entities.js';
import { RequestsController } from './requests/requests.js';
import { ColumnMapping, ImportTemplate, Source } from './sources/entities.js';
import { TemplatesController } from './sources/templates.js';
import { MappingsController } from './sources/mappings.js';
import { SourcesController } from './sources/sources.js';

class HealthView {
  @ApiProperty() ok!: boolean;
  @ApiProperty() database!: boolean;
  @ApiProperty() role!: string;
}
class AliveView {
  @ApiProperty() ok!: boolean;
}

@Controller('health')
export class HealthController {
  constructor(private readonly em: EntityManager) {}
  @Get()
  @Gives(HealthView)
  @Access('public')
  get(): Promise<HealthView> {
    return this.ready();
  }

  /** The process answers. */
  @Get('live')
  @Gives(AliveView)
  @Access('public')
  live(): AliveView {
    return { ok: true };
  }

  /** Work can be done: the database takes a write. */
  @Get('ready')
  @Gives(HealthView)
  @Access('public')
  async ready(): Promise<HealthView> {
    try {
      await this.em
        .fork()
        .getConnection()
        .execute("insert into limit_count (key, n, at) values ('ready', 1, now()) on conflict (key) do update set at = now()");
    } catch {
      throw new Problem(503, 'not-ready', 'The database cannot be written just now. What was sent is not lost; try again in a moment.', { retryAfter: 2 });
    }
    return { ok: true, database: true, role: settings().role };
  }
}

export const entities = [
  Account,
  Workspace,
  Membership,
  Session,
  AccountLink,
  LimitCount,
  SetRecord,
  OperationRecord,
  Delivery,
  Attempt,
  Connection,
  Authorization,
  Placement,
  PlacedPiece,
  PulledResponse,
  GradeColumn,
  SentPicture,
  LtiKey,
  LtiPlatform,
  ClassList,
  ClassMember,
  LtiLogin,
  LtiLink,
  LtiLaunch,
  Push,
  ColumnMapping,
  ImportTemplate,
  RequestRecord,
  Assistant,
  Ask,
  KeptWish,
  Source,
  SetPoint,
];

@Module({
  imports: [
    LoggerModule.forRootAsync({
      useFactory: () => ({
        forRoutes: [{ path: '{*path}', method: RequestMethod.ALL }],
        pinoHttp: {
          level: settings().logLevel,
          autoLogging: /^(?:trace|debug|info)$/.test(settings().logLevel),
          // the serializers below get what happened itself, not what a serializer made of it
          wrapSerializers: false,
          redact: [
            'req.headers.cookie',
            'req.headers.authorization',
            'req.headers["x-csrf-token"]',
            'req.headers["x-attempt-token"]',
            'res.headers["set-cookie"]',
          ],
          serializers: {
            err: safeToLog,
            req: (r: { method: string; url: string; id: string }) => ({
              id: r.id,
              method: r.method,
              url: r.url.replace(/([?&](?:code|state|login_hint|lti_message_hint)=)[^&]+/g, '$1…'),
            }),
          },
        },
      }),
    }),
    MikroOrmModule.forRootAsync({
      driver: PostgreSqlDriver,
      useFactory: () => ({
        driver: PostgreSqlDriver,
        clientUrl: settings().databaseUrl,
        entities,
        extensions: [Migrator],
        migrations: { migrationsList, snapshot: false, silent: true },
        forceUtcTimezone: true,
        allowGlobalContext: false,
        connect: false,
        // every route forks its own entity manager
        registerRequestContext: false,
        pool: { max: 8 },
      }),
    }),
  ],
  controllers: [
    HealthController,
    SessionController,
    ProviderController,
    AccountController,
    LinksController,
    MembersController,
    AuditController,
    StateController,
    SetsController,
    TogetherController,
    FoldersController,
    SharingController,
    CopiesController,
    SamplesController,
    BankController,
    NearController,
    ViewsController,
    DeliveriesController,
    TakeController,
    ClassesController,
    ConnectionsController,
    PushesController,
    PlacementsController,
    GradesController,
    PicturesController,
    PlatformsController,
    LaunchesController,
    CoursesController,
    MappingsController,
    TemplatesController,
    RequestsController,
    AssistantsController,
    LexiconController,
    PeopleController,
    ProgressController,
    PrintController,
    SourcesController,
    HistoryController,
    ChecksController,
  ],
  providers: [
    Asking,
    Sessions,
    Links,
    SchoolProvider,
    Metrics,
    Stopping,
    Changes,
    Db,
    Copies,
    Documents,
    Drafts,
    Folders,
    Sharing,
    Operations,
    Summaries,
    Jobs,
    Pushing,
    Published,
    Publishing,
    Attempts,
    Marking,
    Watching,
    Tool,
    Scores,
    Outbox,
    Housekeeping,
    RateLimit,
    { provide: APP_GUARD, useClass: AccessGuard },
    { provide: APP_FILTER, useClass: ProblemFilter },
  ],
})
export class AppModule {}

/** The OpenAPI document; client types and the access tests come from it. */
export function openApi(app: NestExpressApplication): OpenAPIObject {
  const document = SwaggerModule.createDocument(app, new DocumentBuilder().setTitle('Zakuska').setVersion('1').setOpenAPIVersion('3.1.0').build());
  return { ...document, components: { ...document.components, schemas: { ...coreSchemas(), ...document.components?.schemas } as never } };
}

/** Addresses of learners' pages. */
const LEARNERS = /^\/t(?:\/|$)/;

/** Everything that main.ts and the tests put on the application. */
export async function setUp(app: NestExpressApplication): Promise<void> {
  app.useLogger(app.get(Logger));
  app.use(app.get(Stopping).watch);
  app.get(Metrics).on(app);
  const directives = {
    upgradeInsecureRequests: null,
    workerSrc: ["'self'"],
    styleSrc: ["'self'", "'unsafe-inline'"],
    imgSrc: ["'self'", 'data:'],
    // the solver that draws versions is WebAssembly
    scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
    connectSrc: ["'self'"],
    formAction: ["'self'"],
  };
  const forPages = helmet({ contentSecurityPolicy: { directives }, hsts: settings().secureCookies });
  // nobody is signed in on learners' pages: they may stand in a frame of any page
  const forLearners = helmet({
    contentSecurityPolicy: { directives: { ...directives, frameAncestors: ['*'] } },
    frameguard: false,
    hsts: settings().secureCookies,
  });
  // what the API answers is data: it is not kept, not guessed at and not shown in a frame, and needs no rules for pages
  app.use((req: Request, res: Response, next: NextFunction) => {
    if (!req.path.startsWith('/api/')) return (LEARNERS.test(req.path) ? forLearners : forPages)(req, res, next);
    res.setHeader('x-content-type-options', 'nosniff');
    res.setHeader('content-security-policy', "default-src 'none'; frame-ancestors 'none'");
    res.setHeader('cache-control', 'no-store');
    next();
  });
  // pages look every few seconds whether there are new answers
  app.use(/^\/api\/v1\/(?:deliveries|placements)\/[^/]+\/results$/, unlessSame);
  app.set('etag', false);
  app.disable('x-powered-by');
  app.use(cookieParser());
  // learners send answers, nothing large; only JSON is read at all, which no form of another site can send
  app.use('/api/v1/take', json({ limit: '1mb' }));
  // messages of learning platforms come as forms of another site; what they say is signed
  app.use(/^\/api\/v1\/lti\/(?:login|launch)$/, urlencoded({ extended: false, limit: '200kb' }));
  app.useBodyParser('json', { limit: '16mb' });
  app.set('trust proxy', 'loopback');
  app.setGlobalPrefix('api/v1');
  app.useGlobalPipes(new ValidationPipe({ whitelist: true, forbidNonWhitelisted: true, transform: true }));
  app.enableShutdownHooks();
  SwaggerModule.setup('api/docs', app, () => openApi(app), { jsonDocumentUrl: 'api/openapi.json', swaggerUiEnabled: false });
  servePages(app);
  const orm = app.get<MikroORM>(MikroORM);
  await databaseThere(orm, 60);
  await migrate(orm);
}

/** The built web application: files by name, learners' pages under /t, every other path the workbench. */
function servePages(app: NestExpressApplication): void {
  const root = settings().webRoot;
  if (!existsSync(root)) return;
  // what the build has made smaller goes so to browsers that take it
  const files = staticGzip(root, {
    index: false,
    enableBrotli: true,
    orderPreference: ['br'],
    serveStatic: {
      setHeaders: (res, file: string) => void res.setHeader('cache-control', /assets/.test(file) ? 'public, max-age=31536000, immutable' : 'no-cache'),
    },
  });
  // what is for the API costs no look at the file system
  app.use((req: Request, res: Response, next: NextFunction) => (req.path.startsWith('/api/') ? next() : files(req, res, next)));
  app.use((req: Request, res: Response, next: NextFunction) => {
    if (!/^(GET|HEAD)$/.test(req.method) || req.path.startsWith('/api/') || path.extname(req.path)) return next();
    res.setHeader('cache-control', 'no-cache');
    res.sendFile(path.join(root, LEARNERS.test(req.path) ? 'take.html' : 'index.html'));
  });
}
