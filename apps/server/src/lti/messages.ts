/**
 * Messages of LTI 1.3 and LTI Advantage (1EdTech): the names of their claims, and what of a launch is used here. Names and rules of
 * "LTI Core 1.3", "LTI Deep Linking 2.0", "Assignment and Grade Services 2.0", "Names and Role Provisioning Services 2.0" and the
 * "1EdTech Security Framework 1.0"; from memory.
 */
import { storable } from '@zakuska/core';
import type { JWTPayload } from 'jose';
import { Problem } from '../platform/problem.js';

const CLAIM = 'https://purl.imsglobal.org/spec/lti/claim/';
const DL = 'https://purl.imsglobal.org/spec/lti-dl/claim/';
/** Names of claims. */
export const claims = {
  messageType: `${CLAIM}message_type`,
  version: `${CLAIM}version`,
  deployment: `${CLAIM}deployment_id`,
  target: `${CLAIM}target_link_uri`,
  resourceLink: `${CLAIM}resource_link`,
  roles: `${CLAIM}roles`,
  context: `${CLAIM}context`,
  custom: `${CLAIM}custom`,
  platform: `${CLAIM}tool_platform`,
  deepLink: `${DL}deep_linking_settings`,
  contentItems: `${DL}content_items`,
  deepLinkData: `${DL}data`,
  scores: 'https://purl.imsglobal.org/spec/lti-ags/claim/endpoint',
  members: 'https://purl.imsglobal.org/spec/lti-nrps/claim/namesroleservice',
} as const;
/** Scopes of the services that are used. */
export const scopes = {
  column: 'https://purl.imsglobal.org/spec/lti-ags/scope/lineitem',
  score: 'https://purl.imsglobal.org/spec/lti-ags/scope/score',
  members: 'https://purl.imsglobal.org/spec/lti-nrps/scope/contextmembership.readonly',
} as const;
export const VERSION = '1.3.0';
/** Our own custom parameter: which quiz a link opens. */
export const QUIZ = 'zakuska_quiz';

/** Where scores of a link go. */
export interface ScoresAt {
  /** The column of this link; where there is none, one can be made among `columns`. */
  column?: string;
  columns?: string;
  scopes: string[];
}
/** What a platform asks for when a person chooses what a link opens. */
export interface DeepLink {
  returnUrl: string;
  data?: string;
  /** Whether it takes links to quizzes at all. */
  takesLinks: boolean;
}
/** A launch as it is used here. */
export interface Message {
  kind: 'open' | 'choose';
  deployment: string;
  person: string;
  name: string;
  mail: string | null;
  teaches: boolean;
  resourceLink: string | null;
  title: string;
  course: string;
  quiz: string | null;
  scores: ScoresAt | null;
  membersUrl: string | null;
  deepLink: DeepLink | null;
}

export const refusedLaunch = (why: string): Problem =>
  new Problem(403, 'launch-refused', `This launch was refused: ${why}. Open the link in your course again.`);

const text = (v: unknown, most = 300): string => (typeof v === 'string' ? storable(v).trim().slice(0, most) : '');
const object = (v: unknown): Record<string, unknown> => (v && typeof v === 'object' && !Array.isArray(v) ? (v as Record<string, unknown>) : {});
const texts = (v: unknown): string[] => (Array.isArray(v) ? v.filter((x): x is string => typeof x === 'string') : []);
const address = (v: unknown): string | undefined => (typeof v === 'string' && v.length <= 2000 && URL.canParse(v) && /^https?:/i.test(v) ? v : undefined);

/** Roles of a context, and of the system, by which a person is one who teaches (LIS vocabulary). */
const TEACHES = /(?:^|[#/])(?:Instructor|Administrator|ContentDeveloper|TeachingAssistant|Faculty|Staff|Mentor)$/;
const CONTEXT_ROLE = /^(?:https?:\/\/purl\.imsglobal\.org\/vocab\/lis\/v2\/membership(?:\/[A-Za-z]+)?#|[A-Za-z]+$)/;
/**
 * Whether somebody with these roles teaches in the course. Where a role in the course is given, only such count: who is a learner in
 * the course and staff of the house is a learner here.
 */
export function teaches(roles: readonly string[]): boolean {
  const inCourse = roles.filter((r) => CONTEXT_ROLE.test(r));
  // a sub-role names the role that it belongs to: membership/Instructor#TeachingAssistant
  return (inCourse.length ? inCourse : roles).some((r) => TEACHES.test(r) || /membership\/Instructor#/.test(r));
}

/**
 * What a verified ID token says.
 * @throws Problem 403 where a claim that must be there is missing or has another value
 */
export function messageOf(token: JWTPayload): Message {
  const type = token[claims.messageType];
  if (token[claims.version] !== VERSION) throw refusedLaunch('it is not LTI 1.3');
  if (type !== 'LtiResourceLinkRequest' && type !== 'LtiDeepLinkingRequest') throw refusedLaunch(`messages of the type “${text(type, 60)}” are not taken`);
  const deployment = text(token[claims.deployment]);
  if (!deployment) throw refusedLaunch('it names no deployment');
  if (!Array.isArray(token[claims.roles])) throw refusedLaunch('it says no roles');
  const link = object(token[claims.resourceLink]);
  const wanted = object(token[claims.deepLink]);
  const returnUrl = address(wanted['deep_link_return_url']);
  if (type === 'LtiResourceLinkRequest' && !text(link['id'])) throw refusedLaunch('it names no resource link');
  if (type === 'LtiDeepLinkingRequest' && !returnUrl) throw refusedLaunch('it says no address to go back to');
  const context = object(token[claims.context]);
  const scores = object(token[claims.scores]);
  const column = address(scores['lineitem']);
  const columns = address(scores['lineitems']);
  const person = text(token.sub);
  if (!person) throw refusedLaunch('it names no person');
  const data = wanted['data'];
  return {
    kind: type === 'LtiDeepLinkingRequest' ? 'choose' : 'open',
    deployment,
    person,
    name: text(token['name'], 100) || [text(token['given_name'], 50), text(token['family_name'], 50)].filter(Boolean).join(' '),
    mail: text(token['email'], 200) || null,
    teaches: teaches(texts(token[claims.roles])),
    resourceLink: text(link['id']) || null,
    title: text(link['title']),
    course: text(context['title']) || text(context['label']),
    quiz: text(object(token[claims.custom])[QUIZ], 60) || null,
    scores: column || columns ? { ...(column && { column }), ...(columns && { columns }), scopes: texts(scores['scope']) } : null,
    membersUrl: address(object(token[claims.members])['context_memberships_url']) ?? null,
    deepLink: returnUrl
      ? { returnUrl, ...(typeof data === 'string' && { data: data.slice(0, 10_000) }), takesLinks: texts(wanted['accept_types']).includes('ltiResourceLink') }
      : null,
  };
}
