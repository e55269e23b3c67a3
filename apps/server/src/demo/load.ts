/** The demo: Saltmarsh Cookery School with its teachers, sets at all five stages, and learners' responses. All made up. */
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import type { EntityManager } from '@mikro-orm/postgresql';
import {
  type Item,
  keyProblem,
  mark,
  newId,
  type QuizSet,
  readDraft,
  type Response,
  rightResponse,
  plainOf,
  roundPoints,
  type SetDocument,
  seeded,
  shuffled,
  wrongResponse,
  hash32,
  type ShownAfter,
  usualRules,
  type MemberRole,
} from '@zakuska/core';
import { DEMO } from '../accounts/accounts.js';
import { hashPassword } from '../accounts/passwords.js';
import { Account, Membership, Workspace } from '../accounts/entities.js';
import { newCode } from '../deliveries/codes.js';
import { Assistant } from '../assistant/entities.js';
import { ClassList, ClassMember } from '../classes/entities.js';
import { Attempt, Delivery, personOf } from '../deliveries/entities.js';
import { encrypt, newToken } from '../platform/secrets.js';
import { Documents } from '../sets/documents.js';
import { Folders } from '../sets/folders.js';
import { SetRecord } from '../sets/entities.js';
import { Source } from '../sources/entities.js';

const FOLDER = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '../../demo');
const WORKSPACE = 'Saltmarsh Cookery School';

const TEACHERS: { name: string; email: string; password: string; role: MemberRole }[] = [
  { name: 'M. Okafor', ...DEMO, role: 'owner' },
  { name: 'L. Brandt', email: 'l.brandt@saltmarsh.example', password: 'rye and salt', role: 'editor' },
];

const LEARNERS = [
  'Ada Brandt',
  'Mira Castel',
  'Jonas Ferrow',
  'Wen Lindqvist',
  'Tomas Hale',
  'Noor Petrie',
  'Ivy Sandoval',
  'Rafe Dunmore',
  'Sami Orrin',
  'Zoe Halloran',
  'Edda Quill',
  'Luka Marsh',
  'Pia Kessler',
  'Otto Finch',
  'Lena Brook',
  'Amir Vance',
  'Nell Ashby',
  'Hugo Marlow',
  'Tess Rowan',
  'Yara Linden',
  'Finn Calder',
  'Ines Varga',
  'Cole Redfern',
  'Maja Strand',
  'Ravi Thorne',
  'Elsa Winter',
  'Bram Oakes',
  'Lio Farrant',
  'Greta Solis',
  'Kit Hawley',
];

/** The stand-in, at the address that the installation gives. */
const ASSISTANT = {
  name: 'Galley Assistant',
  interface: 'chat',
  address: '',
  model: 'galley-small',
  priceIn: 0.4,
  priceOut: 1.6,
  currency: 'EUR',
  most: 4000,
  who: 'editor' as MemberRole,
  unit: 'money' as const,
  amount: 2,
};
const ASSISTANT_SECRET = 'whisk-and-ladle';

interface Plan {
  file: string;
  title: string;
  course: string;
  /** How many items are taken and checked; none taken: the set stands at Draft. */
  checked: number | 'none taken';
  deliver?: ShownAfter;
  code?: string;
  learners?: number;
  text?: string;
  /** A file that is kept as the set's source. */
  source?: { file: string; name: string };
  aim?: SetDocument['aim'];
}
const PLANS: Plan[] = [
  {
    file: 'starters-and-proofing.txt',
    title: 'Starters and proofing',
    course: 'Bread and Dough',
    checked: 20,
    deliver: 'answers',
    code: 'BREAD7',
    learners: 30,
  },
  {
    file: 'sourdough-week-two.txt',
    title: 'Sourdough, week two',
    course: 'Bread and Dough',
    checked: 2,
    source: { file: 'sourdough-notes.source.txt', name: 'Notes for the second week' },
    aim: { year: 8 },
  },
  { file: 'safe-hands.txt', title: 'Safe hands, safe kitchen', course: 'Kitchen Safety', checked: 20, deliver: 'score', code: 'KNVFX4' },
  { file: 'stocks-and-sauces.txt', title: 'Stocks and sauces', course: 'Bread and Dough', checked: 20 },
  { file: 'scaling-recipes.txt', title: 'Scaling recipes', course: 'Kitchen Arithmetic', checked: 8 },
  {
    file: 'salt-acid-time.txt',
    title: 'Salt, acid and time',
    course: 'Preserving and Fermentation',
    checked: 0,
    text: 'Read the label of the jar on your bench before you answer: it says what is in the brine and when it was filled.',
  },
  { file: 'words-on-the-menu.txt', title: 'Words on the menu', course: 'Menu French', checked: 3 },
  { file: 'knife-skills.draft.txt', title: 'Knife skills', course: 'Kitchen Safety', checked: 'none taken' },
];

/** A number from 0 to 1 that depends on nothing but the name. */
const chance = (name: string): number => hash32(name) / 0x1_0000_0000;

const ESSAYS = [
  'A part is kept so that the yeast lives on and the next dough can rise.',
  'The yeast and the bacteria in it are alive. If you bake all of it there is nothing left to start the next dough with.',
  'Because it would be a waste to throw it away, and it tastes better.',
  'It is the mother of the next bread: a spoon of it, fed with flour and water, is a whole jar again by the evening. Without it you would wait a week for a new one.',
  'So that the dough rises.',
  'A baker keeps a part of the starter because a starter is kept by bakers.',
];

/** What a learner of some ability answers: right more often the abler, else something a learner might say. */
function answer(item: Item, learner: string, ability: number): Response | null {
  const hard = chance(`hard ${item.label ?? ''} ${item.kind}`) * 0.5;
  const roll = chance(`${learner} ${item.label ?? ''} ${item.stem}`);
  if (item.kind === 'essay') return { text: shuffled(ESSAYS, seeded(learner))[0] ?? '' };
  if (roll < ability - hard + 0.25) return rightResponse(item);
  if (roll > 0.985) return null;
  if (item.kind === 'multiple-choice')
    return {
      options: [
        shuffled(
          item.options.filter((o) => o.credit <= 0),
          seeded(`${learner}${item.label ?? ''}`),
        )[0]?.id ?? '',
      ],
    };
  if (item.kind === 'multiple-response') return { options: item.options.slice(0, 2).map((o) => o.id) };
  if (item.kind === 'numeric') return { text: String((item.answers[0]?.max ?? 1) * (roll > 0.8 ? 10 : 1.5)) };
  if (item.kind === 'cloze')
    return { gaps: Object.fromEntries(item.gaps.map((g, i) => [g.id, i === 0 && g.kind === 'text' ? (g.answers[0]?.text ?? '') : 'water'])) };
  if (item.kind === 'matching')
    return { pairs: item.pairs.map((p, i) => (i === 0 ? p.right : (item.pairs[(i % (item.pairs.length - 1)) + 1]?.right ?? null))) };
  if (item.kind === 'short-answer') return { text: shuffled(['biga', 'yeast', 'leven', 'Le Levain.', 'levian', 'I do not know'], seeded(learner))[0] ?? '' };
  return wrongResponse(item);
}

/** Loads the demo where it is not there yet. With `reset` the demo's workspace is made anew. Not beside data of one's own. */
export async function loadDemo(em: EntityManager, reset: boolean): Promise<'loaded' | 'there' | 'own data'> {
  const there = await em.findOne(Workspace, { name: WORKSPACE });
  if (there && !reset) return 'there';
  // the demo's passwords are known to everybody: nothing of the kind beside a school's own data
  if (!there && (await em.count(Workspace)) + (await em.count(Account)) > 0) return 'own data';
  if (there) await em.nativeDelete(Workspace, { id: there.id });
  em.clear();
  const workspace = em.create(Workspace, { id: newId(), name: WORKSPACE });
  let owner = '';
  for (const t of TEACHERS) {
    const known = await em.findOne(Account, { email: t.email });
    const account = known ?? em.create(Account, { id: newId(), email: t.email, name: t.name, passwordHash: '' });
    account.passwordHash = await hashPassword(t.password);
    em.persist(em.create(Membership, { account, workspace, role: t.role }));
    owner ||= account.id;
  }
  em.persist(em.create(Assistant, { workspace, ...ASSISTANT, sealed: encrypt(ASSISTANT_SECRET) }));
  const list = em.create(ClassList, { id: newId(), workspace, name: 'Bread and Dough, Monday' });
  em.persist(list);
  LEARNERS.slice(0, 12).forEach((name, place) => {
    const mail = `${name.toLowerCase().replace(/[^a-z]+/g, '.')}@saltmarsh.example`;
    // one of them has a third more time
    em.persist(em.create(ClassMember, { id: newId(), list, place, name, mail, extra: name === 'Wen Lindqvist' ? 33 : 0 }));
  });
  const begun = Date.parse('2026-11-02T08:00:00Z');
  await em.flush();
  const documents = new Documents();
  const folders = new Folders(em);
  for (const [n, plan] of PLANS.entries()) {
    const text = readFileSync(path.join(FOLDER, plan.file), 'utf8');
    const at = new Date(begun + (PLANS.length - n) * 26 * 3_600_000);
    const document = documentOf(plan, text, at);
    const folder = await folders.named(em, workspace.id, plan.course, owner);
    const id = await documents.create(em, { workspace: workspace.id, folder, owner, document, draft: { text, overrides: [] }, at });
    const record = em.getReference(SetRecord, id);
    if (plan.source)
      em.persist(
        em.create(Source, {
          id: newId(),
          set: record,
          name: plan.source.name,
          mediaType: 'text/plain',
          text: readFileSync(path.join(FOLDER, plan.source.file), 'utf8'),
          createdAt: at,
        }),
      );
    if (plan.deliver) deliver(em, record, document.set, plan, at);
  }
  await em.flush();
  return 'loaded';
}

function documentOf(plan: Plan, text: string, at: Date): SetDocument {
  const { set: read } = readDraft(text, { language: 'en' });
  const set: QuizSet = { ...read, title: plan.title, language: 'en' };
  if (plan.checked === 'none taken') return { set: { title: plan.title, items: [], language: 'en' }, reviews: {} };
  if (plan.text) set.items.unshift({ id: newId(), kind: 'information', stem: plan.text, points: 0 });
  const checked = set.items.filter((i) => !keyProblem(i)).slice(0, plan.checked);
  return {
    set,
    ...(plan.aim && { aim: plan.aim }),
    reviews: Object.fromEntries(checked.map((i) => [i.id, { state: 'checked' as const, by: 'M. Okafor', at: at.toISOString() }])),
  };
}

function deliver(em: EntityManager, record: SetRecord, set: QuizSet, plan: Plan, at: Date): void {
  const delivery = em.create(Delivery, {
    id: newId(),
    set: record,
    code: plan.code ?? newCode(),
    title: plan.title,
    snapshot: set,
    rules: usualRules(plan.deliver),
    createdAt: at,
    responses: plan.learners ?? 0,
  });
  em.persist(delivery);
  LEARNERS.slice(0, plan.learners ?? 0).forEach((name, i) => {
    const ability = 0.95 - (0.75 * i) / LEARNERS.length + (chance(name) - 0.5) * 0.1;
    const responses: Record<string, Response> = {};
    for (const item of set.items) {
      const given = answer(item, name, ability);
      if (given) responses[item.id] = given;
    }
    const marks = Object.fromEntries(set.items.map((item) => [item.id, mark(item, responses[item.id], set.language)]));
    const startedAt = new Date(at.getTime() + 3_600_000 + i * 4000);
    // longer words take longer, and so do items that are hard for somebody
    const times = Object.fromEntries(
      set.items.map((item) => [item.id, Math.round((8 + plainOf(item.stem).length / 6) * (1.4 - ability / 2) * (0.6 + chance(`pace ${name} ${item.id}`)))]),
    );
    const seconds = Object.values(times).reduce((sum, t) => sum + t, 0);
    em.persist(
      em.create(Attempt, {
        id: newId(),
        delivery,
        tokenHash: 'demo',
        name,
        person: personOf(name),
        seed: newToken(),
        responses,
        marks,
        points: roundPoints(Object.values(marks).reduce((s, m) => s + m.points, 0)),
        times,
        startedAt,
        submittedAt: new Date(startedAt.getTime() + (seconds + 60 + Math.floor(chance(`time ${name}`) * 120)) * 1000),
      }),
    );
  });
}
