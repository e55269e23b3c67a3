/**
 * What the simulated assistant answers: it reads the request as any assistant would, and has the habits of real ones. The same request and
 * the same seed give the same reply.
 */
import { common, type Fact, FACTS, factsOn, inSpanish } from './knowledge.js';

/** Mistakes that are made for certain; without them chance decides. */
export interface Mistakes {
  /** So many keys are wrong. */
  wrongKeys?: number;
  /** All true. */
  oneSided?: boolean;
  duplicate?: boolean;
  /** A number is left out. */
  lostNumber?: boolean;
  /** One of the items that were to be given back is not. */
  dropped?: boolean;
  /** No talk around, and the marks that were asked for. */
  plain?: boolean;
}

type Chance = () => number;
/** Numbers from 0 to 1 that depend on a seed alone (mulberry32, public domain). */
export function chanceOf(seed: string): Chance {
  let a = 1;
  for (const c of seed) a = Math.imul(a ^ (c.codePointAt(0) ?? 0), 2654435761) >>> 0;
  return () => {
    a = (a + 0x6d2b79f5) >>> 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}
const pick = <T>(list: readonly T[], chance: Chance): T => list[Math.floor(chance() * list.length)] as T;
const mixed = <T>(list: readonly T[], chance: Chance): T[] =>
  list
    .map((value) => ({ value, at: chance() }))
    .sort((a, b) => a.at - b.at)
    .map((x) => x.value);

interface Drafted {
  stem: string;
  options?: { text: string; right: boolean }[];
  answer?: string;
  feedback?: string;
}
type Kind = 'choice' | 'several' | 'truth' | 'short' | 'number' | 'gaps' | 'pairs' | 'order' | 'open';
const KINDS: readonly (readonly [RegExp, Kind])[] = [
  [/^multiple choice/, 'choice'],
  [/^multiple response/, 'several'],
  [/^true or false/, 'truth'],
  [/^short answer/, 'short'],
  [/^number/, 'number'],
  [/^gaps/, 'gaps'],
  [/^matching/, 'pairs'],
  [/^ordering/, 'order'],
  [/^open/, 'open'],
];
/** What stands between three quotes; undefined where nothing does. */
function quoted(request: string): string | undefined {
  const from = request.indexOf('"""\n');
  const to = from < 0 ? -1 : request.indexOf('\n"""', from + 4);
  return to < 0 ? undefined : request.slice(from + 4, to);
}
const whole = (s: string): string => s.replace(/[[\]]/g, '');

/** Facts out of the sentences of a text: the longest word that is not at their beginning is what is asked for. */
function factsIn(text: string, chance: Chance): Fact[] {
  const sentences = text.match(/[^.!?\n]{30,220}[.!?]/g) ?? [];
  const asked = sentences.map((s) => {
    const words = s
      .trim()
      .split(/\s+/)
      .slice(1)
      .map((w) => w.replace(/[^\p{L}\p{N}-]/gu, ''))
      .filter((w) => w.length > 3);
    return { said: s.trim(), word: words.sort((a, b) => b.length - a.length)[0] ?? '' };
  });
  return asked
    .filter((a) => a.word)
    .map(({ said, word }): Fact => {
      const others = mixed([...new Set(asked.map((x) => x.word).filter((w) => w && w.toLowerCase() !== word.toLowerCase()))], chance);
      const [a = 'nothing', b = 'everything', c = 'somebody'] = others;
      return {
        of: '',
        question: `Which word is missing? ${said.replace(word, '____')}`,
        right: word,
        wrong: [a, b, c],
        holds: said.replace(word, `[${word}]`),
        fails: said.replace(word, a),
        why: said,
      };
    });
}

function drafted(kind: Kind, f: Fact, all: readonly Fact[], truth: boolean, options: number, chance: Chance): Drafted {
  const feedback = f.why;
  switch (kind) {
    case 'choice':
      return {
        stem: f.question,
        options: mixed([{ text: f.right, right: true }, ...f.wrong.slice(0, options - 1).map((text) => ({ text, right: false }))], chance),
        feedback,
      };
    case 'several': {
      const also = all.find((x) => x !== f) ?? f;
      return {
        stem: 'Which of these are right?',
        options: mixed(
          [
            { text: whole(f.holds), right: true },
            { text: whole(also.holds), right: true },
            { text: f.fails, right: false },
            { text: also.fails, right: false },
          ],
          chance,
        ),
        feedback,
      };
    }
    case 'truth':
      return { stem: truth ? whole(f.holds) : f.fails, answer: truth ? 'true' : 'false', feedback };
    case 'short':
      return { stem: f.question, answer: f.right, feedback };
    case 'number': {
      const n = /\d+/.exec(f.right)?.[0] ?? /\d+/.exec(whole(f.holds))?.[0];
      return n
        ? { stem: `Which number belongs here? ${whole(f.holds).replace(n, '____')}`, answer: n, feedback }
        : { stem: 'How many grams are 2 kilograms?', answer: '2000', feedback: 'A kilogram has a thousand grams.' };
    }
    case 'gaps':
      return { stem: f.holds.replace('[', '{').replace(']', '}'), feedback };
    case 'pairs':
      return {
        stem: `Match.\n${all
          .slice(0, 3)
          .map((x) => `${x.question} -> ${x.right}`)
          .join('\n')}`,
      };
    case 'order':
      return { stem: 'Put the steps in order.\n- mix the dough\n- let it rest\n- bake it' };
    case 'open':
      return { stem: `Explain in your own words: ${f.question}`, answer: f.why };
  }
}

/** How the key is marked: as it was asked for, or as assistants do. */
const MARKS: readonly ((text: string, right: boolean) => string)[] = [
  (t, r) => (r ? `${t} *` : t),
  (t, r) => (r ? `${t} ✅` : t),
  (t, r) => (r ? `${t} (correct)` : t),
  (t, r) => (r ? `**${t}**` : t),
];

function written(list: readonly Drafted[], { plain = false, lostNumber = false }: Mistakes, feedback: boolean, chance: Chance): string {
  const mark = plain ? MARKS[0] : pick(MARKS, chance);
  const bold = !plain && chance() < 0.4;
  const lost = lostNumber && list.length > 2 ? Math.floor(list.length / 2) : -1;
  const items = list.map((d, n) => {
    const [first = '', ...rest] = d.stem.split('\n');
    const number = n === lost ? '' : `${n + 1}. `;
    const head = bold && !d.stem.includes('{') ? `**${number}${first}**` : `${number}${first}`;
    return [
      head,
      ...rest,
      ...(d.options ?? []).map((o, i) => `${'ABCDEFGH'[i]}) ${mark?.(o.text, o.right)}`),
      ...(d.answer === undefined ? [] : [`${d.stem.startsWith('Explain') ? 'Model answer' : 'Answer'}: ${d.answer}`]),
      ...(feedback && d.feedback && !d.stem.startsWith('Explain') ? [`Feedback: ${d.feedback}`] : []),
    ].join('\n');
  });
  const talk = !plain && chance() < 0.8;
  return [
    ...(talk ? [pick(['Absolutely! Here is your quiz:', 'Sure! Here are the items you asked for.', 'Great topic! 🍞 Here we go:'], chance)] : []),
    ...items,
    ...(talk ? ['Let me know if you would like it harder!'] : []),
  ].join('\n\n');
}

function draft(request: string, mistakes: Mistakes, chance: Chance): string {
  const source = quoted(request);
  const topic = /quiz on: (.+)/.exec(request)?.[1] ?? '';
  const facts = source ? mixed(factsIn(source, chance), chance) : factsOn(topic);
  if (!facts.length) return 'I could not find anything in this text that could be asked.';
  const counts = [...request.matchAll(/^- (\d+) ([a-z][a-z ]+?) items?(?: with (\d+) options)?/gm)].flatMap(([, n, name = '', options]) => {
    const kind = KINDS.find(([pattern]) => pattern.test(name))?.[1];
    return kind ? [{ kind, n: Number(n), options: Number(options ?? 4) }] : [];
  });
  const wanted = counts.length ? counts : [{ kind: 'choice' as const, n: 5, options: 4 }];
  const oneSided = mistakes.oneSided ?? chance() < 0.25;
  let at = 0;
  const list = wanted.flatMap(({ kind, n, options }) =>
    Array.from({ length: n }, (_, i) => {
      const f = facts[at++ % facts.length] as Fact;
      return drafted(kind, f, facts, oneSided || i % 2 === 0, options, chance);
    }),
  );
  const wrong = mistakes.wrongKeys ?? (chance() < 0.25 ? 1 : 0);
  for (const d of list.filter((x) => x.options?.filter((o) => o.right).length === 1).slice(0, wrong)) {
    const options = d.options ?? [];
    const right = options.findIndex((o) => o.right);
    options.forEach((o, i) => (o.right = i === (right + 1) % options.length));
  }
  if ((mistakes.duplicate ?? chance() < 0.15) && list[0]) list.push(list[0]);
  const lostNumber = mistakes.lostNumber ?? chance() < 0.15;
  return written(list, { ...mistakes, lostNumber }, /"Feedback:"/.test(request), chance);
}

/** The items of a request to rework, each from its number to the next. */
const itemsOf = (request: string): string[] =>
  (request.split(/^The items:$/m)[1] ?? '')
    .trim()
    .split(/\n(?=\d+\. )/)
    .map((t) => t.trim())
    .filter((t) => /^\d+\. /.test(t));
/** What of a line is words: not its number and sign, its letter, its mark, or its name. */
const LINE = /^((?:\d+\. (?:\(\w+\) )?|[A-Za-z][.)] |-> |- |(?:Answer|Feedback|Hint|Kind|Points|Model answer): )?)(.*?)((?: \*)?)$/;
const eachLine = (item: string, say: (words: string) => string): string =>
  item
    .split('\n')
    .map((line) => {
      const [, head = '', words = '', mark = ''] = LINE.exec(line) ?? [];
      return /^(?:Kind|Points): $/.test(head) || /^(?:true|false)$/.test(words) ? line : `${head}${say(words)}${mark}`;
    })
    .join('\n');

function rework(request: string, mistakes: Mistakes, chance: Chance): string {
  const items = itemsOf(request);
  const said = items.join('\n');
  const talk = mistakes.plain || chance() < 0.3 ? [] : ['Here you are!'];
  const more = Number(/Write (\d+)/.exec(request)?.[1] ?? 2);
  if (/Write one text of about/.test(request))
    return `1. ${factsOn(said)
      .slice(0, 5)
      .map((f) => whole(f.holds))
      .join(' ')}\nKind: information`;
  const adds = /further items like these/.test(request) ? 'choice' : /open questions/.test(request) ? 'open' : undefined;
  if (adds) {
    const facts = factsOn(said).slice(0, more);
    return written(
      facts.map((f) => drafted(adds, f, FACTS, true, 4, chance)),
      { plain: true, ...mistakes },
      false,
      chance,
    );
  }
  const language = /Put the items into (\w+)/.exec(request)?.[1];
  const change = (item: string): string => {
    if (language) return eachLine(item, language === 'Spanish' ? inSpanish : (w) => w);
    const near = factsOn(item)[0];
    if (/Add a line "Feedback:"/.test(request)) return `${item}\nFeedback: ${near?.why ?? 'It follows from the text.'}`;
    if (/Add two lines "Hint:"/.test(request))
      return `${item}\nHint: Think of what you have seen in the kitchen.\nHint: ${near?.of.split(' ')[0] ?? 'salt'} matters here.`;
    if (/further wrong options/.test(request)) {
      const letters = [...item.matchAll(/^([A-Z])\) /gm)];
      if (!letters.length) return item;
      const lines = mixed(
        FACTS.flatMap((f) => f.wrong),
        chance,
      )
        .slice(0, more)
        .map((t, i) => `${'ABCDEFGHIJ'[letters.length + i]}) ${t}`);
      return item.replace(/((?:^[A-Z]\) .*\n?)+)/m, (block) => `${block.trimEnd()}\n${lines.join('\n')}\n`).trimEnd();
    }
    // simpler, shorter, harder, for a year: a few words change, what is asked stays
    return eachLine(item, (w) =>
      w
        .replace(/\bWhich of the following\b/g, 'Which of these')
        .replace(/\butili[sz]e/g, 'use')
        .replace(/\bapproximately\b/g, 'about'),
    );
  };
  const dropped = mistakes.dropped && items.length > 1 ? items.length - 1 : -1;
  return [...talk, ...items.filter((_, i) => i !== dropped).map(change)].join('\n\n');
}

/** Answers questions whose keys were not sent: by what it knows, else by guessing. */
function opinion(request: string): string {
  const questions = request.split(/\n(?=\d+\. )/).filter((t) => /^\d+\. /.test(t) && !t.includes(' | because'));
  return questions
    .map((q) => {
      const n = /^\d+/.exec(q)?.[0] ?? '1';
      const options = [...q.matchAll(/^([A-Z])\) (.+)$/gm)].map(([, letter = '', text = '']) => ({ letter, text }));
      const known = FACTS.map((f) => ({ f, n: common(q, `${f.question} ${f.right} ${whole(f.holds)}`) })).sort((a, b) => b.n - a.n)[0];
      if (!known || known.n < 2) return options.length ? `${n}. ${options[0]?.letter} | I am not sure of it.` : `${n}. true | I am not sure of it.`;
      const { f } = known;
      if (options.length) {
        const best = options
          .map((o) => ({ o, n: common(o.text, `${f.right} ${f.holds}`) - common(o.text, f.wrong.join(' ')) / 2 }))
          .sort((a, b) => b.n - a.n)[0]?.o;
        return `${n}. ${best?.letter ?? 'A'} | ${f.why}`;
      }
      if (/^Kind: true-false/m.test(q))
        return `${n}. ${common(q, whole(f.holds)) >= common(q, f.fails) && !/speeds|weaker|vinegar/i.test(q) ? 'true' : 'false'} | ${f.why}`;
      return `${n}. ${/kilogram/.test(q) ? '2000' : f.right} | ${f.why}`;
    })
    .join('\n');
}

/** A draft written in the form that was asked for, word by word: numbers, letters and marks are what changes. */
function intoForm(request: string): string {
  let n = 0;
  return (quoted(request) ?? '')
    .trim()
    .split('\n')
    .map((line) =>
      line
        .trim()
        .replace(/^(?:Q(?:uestion)? ?\d+[.:)]|\d+[).:])\s*/i, () => `${++n}. `)
        .replace(/^\(?([a-h])[.)]\s*/i, '$1) '),
    )
    .map((line) => {
      const sign = ['✓', '✔', '✅', '(correct)'].find((m) => line.toLowerCase().endsWith(m));
      return sign ? `${line.slice(0, -sign.length).trimEnd()} *` : line;
    })
    .join('\n');
}

/**
 * The reply to a request.
 * @param seed the same gives the same
 */
export function replyTo(request: string, seed: string, mistakes: Mistakes = {}): string {
  const chance = chanceOf(`${seed} ${request.length} ${request.slice(0, 400)}`);
  if (/^Below are \d+ items of a quiz/.test(request)) return rework(request, mistakes, chance);
  if (/^Answer these \d+ questions?/.test(request) || request.startsWith('Answer this question')) return opinion(request);
  if (request.startsWith('Below is a draft of quiz items')) return intoForm(request);
  if (/quiz|items/i.test(request)) return draft(request, mistakes, chance);
  return 'ready';
}
