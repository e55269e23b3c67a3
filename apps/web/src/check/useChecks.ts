/** What the checks say of the open set: findings, reading level, and what the sources say of each key. */
import {
  answerFindings,
  type Checking,
  type Evidence,
  type Finding,
  findingKey,
  includedSet,
  type Item,
  type Opinion,
  opinionFindings,
  opinionsOf,
  type QuizSet,
  type Readability,
  type SetDocument,
  type SourceText,
} from '@zakuska/core';
import { useQuery, type UseQueryResult } from '@tanstack/react-query';
import { useMemo } from 'react';
import { api, call, type Schemas } from '../api/client.js';
import { useOfSet } from '../api/use.js';
import { useRequests } from '../set/requests.js';
import { useSourceTexts } from '../sources/sources.js';
import { WorkerClient } from '../worker/client.js';
import { latestFrom, useLatest } from '../worker/latest.js';
import type { Checked, Checker } from './check.worker.js';

const checker = new WorkerClient<Checker>(() => new Worker(new URL('./check.worker.js', import.meta.url), { type: 'module' }));

export const checksKey = (workspace: string): readonly string[] => ['checks', workspace];
/** How the workspace checks. */
export const useWorkspaceChecks = (workspace: string): UseQueryResult<Schemas['ChecksView']> =>
  useQuery({ queryKey: checksKey(workspace), queryFn: () => call(api.GET('/api/v1/workspaces/{workspace}/checks', { params: { path: { workspace } } })) });

export interface Checks {
  findings: Finding[];
  reading: Readability | null;
  evidence: ReadonlyMap<string, Evidence>;
  /** Whether the set has a source to look keys up in. */
  hasSource: boolean;
  checking: Checking;
  /** Whether nothing is known yet: the first check is under way. */
  unknown: boolean;
  /** The newest set could not be checked; what is here is of the one before. */
  failed: boolean;
  again: () => void;
}

interface Question {
  set: QuizSet;
  checking: Checking;
  sources: readonly SourceText[] | null;
}

function checkCall() {
  let told: { worker: object; sources: readonly SourceText[] | null } | null = null;
  return latestFrom(checker, async (remote, { set, checking, sources }: Question, _, worker): Promise<Checked> => {
    if (told?.worker !== worker || told.sources !== sources) {
      await remote.use(sources ?? []);
      told = { worker, sources };
    }
    return remote.check(set, checking);
  });
}

const nothing: Checked = { findings: [], reading: null, evidence: [] };

/** What the last second opinion says against keys that are still the same. */
function useSecondOpinion(set: string, { items }: QuizSet): Finding[] {
  const { data } = useRequests(set);
  const asked = data?.find((r) => r.purpose === 'opinion' && r.reply);
  // at every change of the set only the changed items are looked at
  // oxlint-disable-next-line react/exhaustive-deps -- what is known is of one request
  const known = useMemo(() => new WeakMap<Item, Opinion>(), [asked]);
  return useMemo(() => {
    if (!asked?.reply) return [];
    const byId = new Map(items.map((i) => [i.id, i]));
    const list = asked.items.map((id) => byId.get(id));
    return opinionFindings(opinionsOf(list, asked.reply, asked.text, known));
  }, [asked, items, known]);
}

/** Of the items that go out, without what was set aside. While one check runs, only the newest set waits for the next. */
export function useChecks(set: string, workspace: string, document: SetDocument): Checks {
  const settings = useWorkspaceChecks(workspace).data;
  const { any: hasSource, texts: sources } = useSourceTexts(set);
  const checking = useMemo<Checking>(
    () => ({ limits: settings?.limits as Checking['limits'], off: settings?.off, aim: document.aim }),
    [settings, document.aim],
  );
  const { set: all, reviews } = document;
  const included = useMemo(() => includedSet({ set: all, reviews }), [all, reviews]);
  const question = useMemo<Question>(() => ({ set: included, checking, sources }), [included, checking, sources]);
  const { value, failed, again } = useLatest(question, checkCall);
  const found = value ?? nothing;
  const second = useSecondOpinion(set, included);
  const use = useQuery(useOfSet(set)).data;
  const answered = useMemo(() => (use ? answerFindings(included.items, use) : []), [use, included]);
  return useMemo(
    () => ({
      findings: [...second, ...answered, ...found.findings].filter((f) => document.dismissed?.[findingKey(f)] === undefined),
      reading: found.reading,
      evidence: new Map(found.evidence.map((e) => [e.item, e])),
      hasSource,
      checking,
      unknown: value === null && !failed,
      failed,
      again,
    }),
    [value, found, second, answered, document.dismissed, hasSource, checking, failed, again],
  );
}
