/** Items of a QTI file as something that can be answered: by the file's own response processing. */
import { richToPlain } from '../../item/richText.js';
import { truth } from '../../language/truths.js';
import { showsSame } from '../../rehearse/shows.js';
import type { Act, ShownPiece } from '../../rehearse/probes.js';
import { type Playable, picturesIn } from '../../rehearse/rehearse.js';
import type { AssessmentItem, Choice, Interaction, PlacedItem } from './assessmentItem.js';
import type { Answers } from './scoring.js';

const pick = (options: readonly Choice[], s: ShownPiece): Choice | undefined => {
  const same = options.filter((o) => showsSame(o.content, s.content));
  return same[s.nth] ?? same[0];
};

/** What is done, in the variables of the file. */
function answersFor(asked: AssessmentItem, act: Act): Answers | 'refused' | null {
  const out: Record<string, string[]> = {};
  const add = (variable: string, value: string): void => void (out[variable] ??= []).push(value);
  const [part] = asked.parts as [Interaction | undefined];
  if (!part) return null;
  switch (act.type) {
    case 'truth': {
      if (part.type !== 'choice') return null;
      const o = part.options.find((x) => truth(richToPlain(x.content), false) === act.value) ?? part.options.find((x) => x.identifier === String(act.value));
      if (!o) return null;
      add(part.variable, o.identifier);
      return out;
    }
    case 'choose': {
      if (part.type !== 'choice') return null;
      out[part.variable] = [];
      if (part.most !== undefined && act.options.length > part.most) return 'refused';
      for (const s of act.options) {
        const o = pick(part.options, s);
        if (!o) return null;
        add(part.variable, o.identifier);
      }
      return out;
    }
    case 'type':
      if (part.type !== 'typed' && part.type !== 'extended') return null;
      add(part.variable, act.text);
      return out;
    case 'fill':
      for (const [i, value] of act.gaps.entries()) {
        const p = asked.parts[i];
        if (!p) return null;
        if (p.type === 'typed') add(p.variable, typeof value === 'string' ? value : value.content);
        else if (p.type === 'gap') {
          // a list of accepted words stands for typing one of them
          const o =
            typeof value === 'string'
              ? p.options.find((x) => richToPlain(x.content).trim().toLowerCase() === value.trim().toLowerCase())
              : pick(p.options, value);
          if (o) add(p.variable, o.identifier);
        } else return null;
      }
      return out;
    case 'pair':
      if (part.type !== 'match') return null;
      for (const { left, right } of act.pairs) {
        const rows = part.rows.flatMap((r, i) => (showsSame(r.content, left.content) ? [i] : []));
        const row = rows[left.nth] ?? rows[0];
        if (row === undefined) return null;
        if (right === null) continue;
        const o = part.rows[row]?.options.find((x) => showsSame(x.content, right));
        if (!o) return null;
        const [variable, value] = part.answer(row, o);
        add(variable, value);
      }
      return out;
    case 'order': {
      if (part.type !== 'order') return null;
      for (const s of act.pieces) {
        const o = pick(part.options, s);
        if (!o) return null;
        add(part.variable, o.identifier);
      }
      return out;
    }
  }
}

/** Items of a QTI file, answered through its own scoring. */
export const playQti = (placed: readonly PlacedItem[]): Playable[] =>
  placed.map(({ item, asked, weight, full, delivered }) => {
    const points = (answers: Answers): number => {
      const { score } = asked.scorer.score(answers);
      return asked.scaled ? (Math.min(score, asked.fullScore ?? full) / (asked.fullScore ?? full)) * item.points : score * weight;
    };
    const variables = asked.parts.map((p) => ('variable' in p ? p.variable : null));
    return {
      id: item.id,
      stem: item.stem,
      maximum: item.points,
      pictures: picturesIn(asked.stem),
      typed: asked.parts.map((p) => (p.type === 'typed' ? asked.scorer.literals(p.variable) : [])),
      ...(asked.parts[0]?.type === 'choice' && { options: asked.parts[0].options.map((o) => o.content) }),
      ...(delivered !== undefined && { delivered }),
      declared: () => {
        if (!asked.scorer.declares || !asked.scorer.scores) return null;
        const answers: Record<string, string[]> = {};
        for (const v of variables) {
          if (v === null) return null;
          answers[v] = asked.scorer.correct(v);
          if (!answers[v].length) return null;
        }
        return points(answers);
      },
      score: (act) => {
        const answers = answersFor(asked, act);
        return answers && answers !== 'refused' ? points(answers) : answers;
      },
    };
  });
