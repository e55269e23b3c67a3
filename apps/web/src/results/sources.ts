/** Where answers come from, and the answers: of the own quiz, or fetched from a service. */
import { type QueryClient, type QueryFunctionContext, useQuery } from '@tanstack/react-query';
import { type Decision, judgingOf, type Mark, type OutsideRules, type QuizSet, type Response, serviceRows } from '@zakuska/core';
import { api, call, callUnlessSame, type Schemas } from '../api/client.js';
import { useOpenSet } from '../set/context.js';
import { type Goes, goesWords } from '../set/goes.js';
import { locale, say } from '../words/say.js';

export interface Attempt {
  id: string;
  name: string;
  mail?: string;
  /** What the school calls the person. */
  number?: string;
  /** Which attempt of the person it is. */
  attempt: number;
  sameDeviceAs?: string;
  /** The points that count for the person; absent where another attempt of theirs does, or nobody said which. */
  counts?: number;
  /** Arrived after the end, or after it was due, with answers that were given before it. */
  late?: boolean;
  /** Handed in by the clock. */
  byClock?: boolean;
  /** The share of the points that is kept, where it was handed in after it was due; `points` are those. */
  kept?: number;
  /** Seconds that items were looked at. */
  times?: Record<string, number>;
  /** Items behind the last one that was answered. */
  notReached?: string[];
  practice?: Record<string, { tries: number; hints: number; first?: string }>;
  points: number;
  /** The same before it was rounded, where the set rounds. */
  exact?: number;
  startedAt: string;
  submittedAt: string;
  marks: Record<string, Mark>;
  responses: Record<string, Response>;
}
/** Where responses come from: the own quiz, or a service that they are fetched from. */
export interface Source {
  id: string;
  name: string;
  responses: number;
  /** Where learners answer. */
  link: string;
  /** The version that it is of; empty for the whole set. */
  version: string;
  code?: string;
  placement?: true;
  /** More responses can be fetched. */
  pulls?: boolean;
  /** A table that was kept. */
  table?: true;
  /** What is made of its answers, where they came from elsewhere. */
  rules?: OutsideRules;
}
/** A decision as it is kept, with who made it. */
export type Kept = Schemas['DecisionView'] & { decision: Decision };
export interface Found {
  /** The set with the keys that count now, without what is left out. */
  set: QuizSet;
  /** The set as it was sent. */
  sent: QuizSet;
  decisions: Kept[];
  attempts: Attempt[];
  underWay: number;
  /** Responses that the service marked otherwise. */
  otherwise: number;
  /** What the server calls this state of things. */
  tag: string;
}

/** The decisions that were not taken back. */
export const holding = (kept: readonly Kept[]): Decision[] => kept.flatMap((k) => (k.takenBack ? [] : [k.decision]));

/** The answers of a source with their marks; `before` itself where nothing is new since. */
async function fetchResults(of: Source, before: Found | undefined): Promise<Found> {
  const headers = { 'if-none-match': before?.tag ?? '' };
  const answer = of.placement
    ? await callUnlessSame(api.GET('/api/v1/placements/{placement}/results', { params: { path: { placement: of.id } }, headers }))
    : await callUnlessSame(api.GET('/api/v1/deliveries/{delivery}/results', { params: { path: { delivery: of.id } }, headers }));
  if (!answer) return before as Found;
  const { set: sent, ...found } = { underWay: 0, otherwise: 0, ...answer.data };
  const decisions = found.decisions as Kept[];
  return { ...found, decisions, sent, set: judgingOf(sent, holding(decisions)).set, tag: answer.tag };
}
/** How the answers of a source are fetched, and again every ten seconds. */
export const resultsQuery = (of: Source | undefined) => ({
  queryKey: ['results', of?.id],
  queryFn: ({ client, queryKey }: QueryFunctionContext) => fetchResults(of as Source, client.getQueryData<Found>(queryKey)),
  refetchInterval: 10_000,
  // nothing new is the same object; what is new is not compared answer by answer, which takes longer than to show it
  structuralSharing: false,
});

/** What is said of a set's answers anywhere is asked for anew: some came, or went. */
export async function answersChanged(queries: QueryClient, set: string): Promise<void> {
  const keys = [['placements', set], ['set', set], ['sets']];
  await Promise.all(keys.map((queryKey) => queries.invalidateQueries({ queryKey })));
}

/** Takes decisions on the answers of a source. */
export const decide = (of: Source, decisions: Decision[]): Promise<unknown> =>
  of.placement
    ? call(api.POST('/api/v1/placements/{placement}/decisions', { params: { path: { placement: of.id } }, body: { decisions } }))
    : call(api.POST('/api/v1/deliveries/{delivery}/decisions', { params: { path: { delivery: of.id } }, body: { decisions } }));
/** Takes decisions back, by their ids. */
export const takeBack = (of: Source, ids: string[]): Promise<unknown> =>
  of.placement
    ? call(api.POST('/api/v1/placements/{placement}/decisions/back', { params: { path: { placement: of.id } }, body: { ids } }))
    : call(api.POST('/api/v1/deliveries/{delivery}/decisions/back', { params: { path: { delivery: of.id } }, body: { ids } }));

/** The service of placements that are tables which somebody had. */
const TABLE = 'table';
const day = (at: string): string => new Date(at).toLocaleDateString(locale());

/** All places that answers to the open set come from. */
export function useSources(): { list: Source[] | null; error: Error | null; again: () => void } {
  const { view } = useOpenSet();
  const path = { params: { path: { set: view.id } } };
  const deliveries = useQuery({ queryKey: ['deliveries', view.id], queryFn: () => call(api.GET('/api/v1/sets/{set}/deliveries', path)) });
  const placements = useQuery({ queryKey: ['placements', view.id], queryFn: () => call(api.GET('/api/v1/sets/{set}/placements', path)) });
  const again = (): void => {
    void deliveries.refetch();
    void placements.refetch();
  };
  const error = deliveries.error ?? placements.error;
  if (!deliveries.data || !placements.data) return { list: null, error, again };
  const own = deliveries.data.map(
    (d): Source => ({
      id: d.id,
      name: `${before(d)}${d.code}, ${day(d.createdAt)}`,
      version: d.version,
      responses: d.responses,
      link: d.link,
      code: d.code,
    }),
  );
  const there = placements.data
    .filter((p) => p.pulls || p.service === TABLE)
    .map((p): Source => {
      const row = Object.values(serviceRows).find((s) => s.id === p.service);
      return {
        id: p.id,
        name: `${before(p)}${p.service === TABLE ? say('Table') : (row?.name ?? p.service)}: ${p.title}, ${day(p.createdAt)}`,
        version: p.version,
        responses: p.responses,
        link: p.link,
        placement: true,
        pulls: p.pulls,
        rules: p.rules,
        ...(p.service === TABLE && { table: true }),
      };
    });
  return { list: [...own, ...there], error: null, again };
}

/** What of the set it was, in front of a name. */
const before = (goes: Goes): string => (goesWords(goes) ? `${goesWords(goes)}, ` : '');
