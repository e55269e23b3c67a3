/** What of a quiz happens in courses: whose scores have arrived there, and who of the course has not handed in. */
import { Controller, Get, HttpCode, Param, Post } from '@nestjs/common';
import { ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import { EntityManager } from '@mikro-orm/postgresql';
import { Access, Gives } from '../accounts/access.js';
import { coursePerson } from '../deliveries/entities.js';
import { DUE_AGAIN } from '../platform/dueRows.js';
import { sql } from '../platform/sql.js';
import { LtiLaunch, type LtiPlatform } from './entities.js';
import { scopes, teaches } from './messages.js';
import { json, platformAway, Tool } from './tool.js';

class RefusedScore {
  @ApiProperty() name!: string;
  @ApiProperty() problem!: string;
}
class CourseView {
  @ApiProperty() platform!: string;
  @ApiProperty() course!: string;
  @ApiProperty({ description: 'Scores that have arrived in the course.' }) sent!: number;
  @ApiProperty({ description: 'Scores on their way.' }) waiting!: number;
  @ApiProperty({ type: [RefusedScore] }) refused!: RefusedScore[];
  @ApiProperty({ description: 'Whether the course says who is in it.' }) members!: boolean;
}
class MemberView {
  @ApiProperty() name!: string;
  @ApiProperty() course!: string;
  @ApiPropertyOptional() mail?: string;
  @ApiProperty({ enum: ['handed in', 'begun', 'not begun'] }) state!: 'handed in' | 'begun' | 'not begun';
}
/** A member as the platform gives it (Names and Role Provisioning Services 2.0). */
interface Member {
  user_id?: string;
  name?: string;
  given_name?: string;
  family_name?: string;
  email?: string;
  roles?: string[];
  status?: string;
}
const CONTAINER = 'application/vnd.ims.lti-nrps.v2.membershipcontainer+json';
/** Pages of members that are read. */
const MOST_PAGES = 50;

@ApiTags('lti')
@Controller()
export class CoursesController {
  constructor(
    private readonly em: EntityManager,
    private readonly tool: Tool,
  ) {}

  @Get('deliveries/:delivery/courses')
  @Gives([CourseView])
  @Access('reader')
  async courses(@Param('delivery') id: string): Promise<CourseView[]> {
    const rows = await sql<Omit<CourseView, 'refused'> & { refused: RefusedScore[] | null }>(
      this.em.fork(),
      `select p.name as platform, l.course, count(*) filter (where s.sent_at is not null)::int as sent,
         count(*) filter (where s.attempt_id is not null and s.sent_at is null and s.problem is null)::int as waiting,
         jsonb_agg(jsonb_build_object('name', a.name, 'problem', s.problem)) filter (where s.problem is not null) as refused,
         bool_or(l.members_url is not null) as members
       from lti_launch l join lti_platform p on p.id = l.platform_id left join attempt a on a.launch_id = l.id left join lti_score s on s.attempt_id = a.id
       where l.delivery_id = ? group by p.name, l.course order by p.name, l.course`,
      [id],
    );
    return rows.map((r) => ({ ...r, refused: r.refused ?? [] }));
  }

  /** Sends scores again that were refused. */
  @Post('deliveries/:delivery/courses/again')
  @HttpCode(204)
  @Access('editor')
  async again(@Param('delivery') id: string): Promise<void> {
    await sql(this.em.fork(), `update lti_score set ${DUE_AGAIN} where problem is not null and attempt_id in (select id from attempt where delivery_id = ?)`, [
      id,
    ]);
  }

  /** Learners of the courses in which the quiz is, as the platforms say it now. */
  @Post('deliveries/:delivery/members')
  @HttpCode(200)
  @Gives([MemberView])
  @Access('reader')
  async members(@Param('delivery') id: string): Promise<MemberView[]> {
    const em = this.em.fork();
    // the newest launch of each course knows where to ask
    const launches = await em.find(
      LtiLaunch,
      { delivery: id, membersUrl: { $ne: null } },
      { populate: ['platform'], orderBy: { createdAt: 'desc' }, limit: 2000 },
    );
    const courses = new Map<string, LtiLaunch>();
    for (const l of launches) if (l.membersUrl && !courses.has(l.membersUrl)) courses.set(l.membersUrl, l);
    const attempts = await sql<{ person: string; done: boolean }>(
      em,
      'select person, bool_or(submitted_at is not null) as done from attempt where delivery_id = ? group by person',
      [id],
    );
    const done = new Map(attempts.map((a) => [a.person, a.done]));
    const out: MemberView[] = [];
    for (const [url, l] of courses)
      for (const m of await this.membersOf(l.platform, url)) {
        if (!m.user_id || (m.status && m.status !== 'Active') || teaches(m.roles ?? [])) continue;
        const state = done.get(coursePerson(l.platform.id, m.user_id));
        const name = m.name ?? [m.given_name, m.family_name].filter(Boolean).join(' ');
        out.push({
          name: name || 'A learner',
          course: l.course,
          ...(m.email && { mail: m.email }),
          state: state === undefined ? 'not begun' : state ? 'handed in' : 'begun',
        });
      }
    return out.sort((a, b) => a.name.localeCompare(b.name));
  }

  private async membersOf(p: LtiPlatform, first: string): Promise<Member[]> {
    const out: Member[] = [];
    let next: string | undefined = first;
    for (let page = 0; next && page < MOST_PAGES; page++) {
      const answer = await this.tool.call(p, [scopes.members], next, { accept: CONTAINER });
      if (answer.status !== 200) throw platformAway(p);
      out.push(...(json<{ members?: Member[] }>(answer, p).members ?? []));
      next = nextOf(answer.headers.link, next);
    }
    return out;
  }
}

/** The next page by a Link header (RFC 8288). */
function nextOf(link: string | string[] | undefined, base: string): string | undefined {
  const found = /<([^<>]{1,2000})>\s*;[^,]{0,200}?\brel="?next"?/.exec([link ?? ''].flat().join(', '))?.[1];
  if (!found || !URL.canParse(found, base)) return undefined;
  // the token is for this platform, and goes nowhere else
  const url = new URL(found, base);
  return url.origin === new URL(base).origin ? url.href : undefined;
}
