/** Publishes sets as quizzes by link and entry code. */
import { Injectable } from '@nestjs/common';
import { EntityManager } from '@mikro-orm/postgresql';
import {
  goingSet,
  goingToChoose,
  isForClass,
  keyProblem,
  newId,
  type QuizRules,
  type QuizSet,
  rulesProblem,
  type SetDocument,
  storable,
  usualRules,
} from '@zakuska/core';
import { newCode } from './codes.js';
import { gone, Problem } from '../platform/problem.js';
import { Documents } from '../sets/documents.js';
import { SetRecord } from '../sets/entities.js';
import { ClassList } from '../classes/entities.js';
import { Delivery } from './entities.js';
import { invite } from './invitations.js';

/** What learners cannot choose need not be kept with each delivery. */
const withoutTranslations = (set: QuizSet | null): QuizSet | null => {
  if (!set) return null;
  const { translations: _, ...rest } = set;
  return rest;
};

/** How a set is published. */
interface How {
  rules?: QuizRules;
  title?: string;
  version?: string;
  language?: string;
  choice?: readonly string[];
  classList?: string;
}

@Injectable()
export class Publishing {
  constructor(
    private readonly em: EntityManager,
    private readonly documents: Documents,
  ) {}

  /**
   * Publishes the items of a set, or of one of its versions, as they are now; later edits of the set do not change a delivery.
   * @throws Problem 404 where there is no such version or language, 422 where there is nothing to deliver, or an item has no key
   */
  async publish(setId: string, how: How): Promise<Delivery> {
    const em = this.em.fork();
    const { document } = await this.documents.read(em, setId);
    const d = made(em, document, setId, how, await this.classOf(em, setId, how));
    await em.persistAndFlush(d);
    if (d.classList) await invite(em, d.id);
    return d;
  }

  /**
   * Publishes all versions that were drawn, as they are now: one code, and each learner gets one of them.
   * @returns the first of them
   * @throws Problem 422 where there are no two versions, and as `publish` does
   */
  async publishVersions(setId: string, how: Omit<How, 'version'>): Promise<Delivery> {
    const { document } = await this.documents.read(this.em.fork(), setId);
    const versions = document.drawn?.versions ?? [];
    if (versions.length < 2) throw new Problem(422, 'no-versions', 'There are no versions to give out. Draw two or more on Arrange.');
    return this.em.fork().transactional(async (em) => {
      const classList = await this.classOf(em, setId, how);
      const together = newId();
      const all = versions.map(({ name }) => made(em, document, setId, { ...how, version: name }, classList, together));
      await em.persistAndFlush(all);
      const [first] = all as [Delivery];
      if (classList) await invite(em, first.id);
      return first;
    });
  }

  /** The class that takes it; null where it is for no class. @throws Problem 422 where the rules cannot be so, or no class is chosen */
  private async classOf(em: EntityManager, setId: string, how: How): Promise<ClassList | null> {
    const rules = how.rules ?? usualRules();
    const wrong = rulesProblem(rules);
    if (wrong) throw new Problem(422, 'rules', wrong);
    const byList = isForClass(rules);
    const classList = byList && how.classList ? await em.findOne(ClassList, { id: how.classList, workspace: { id: await workspaceOf(em, setId) } }) : null;
    if (byList && !classList) throw new Problem(422, 'class-missing', 'Choose the class that takes the quiz.');
    return classList;
  }
}

/** A delivery of a document as it is now. @throws Problem as `publish` does */
function made(em: EntityManager, document: SetDocument, setId: string, how: How, classList: ClassList | null, together?: string): Delivery {
  const set = how.choice?.length ? goingToChoose(document, how.version, how.choice) : withoutTranslations(goingSet(document, how.version, how.language));
  if (!set) throw gone(how.language || how.choice?.length ? 'version or language' : 'version');
  const { items } = set;
  const keyless = items.filter((i) => keyProblem(i));
  if (!items.length) throw new Problem(422, 'nothing-to-deliver', 'There is no item to deliver. Take items from the draft first.');
  if (keyless.length)
    throw new Problem(
      422,
      'key-missing',
      `${keyless.length} of ${items.length} items have no key and would mark everybody wrong. Set the keys on Check, or leave the items out.`,
      { items: keyless.map((i) => i.id) },
    );
  return em.create(Delivery, {
    id: newId(),
    set: em.getReference(SetRecord, setId),
    code: newCode(),
    title: storable(how.title ?? set.title),
    snapshot: set,
    version: how.version ?? '',
    language: how.choice?.length ? '' : (how.language ?? ''),
    rules: how.rules ?? usualRules(),
    classList,
    together: together ?? null,
  });
}

async function workspaceOf(em: EntityManager, set: string): Promise<string> {
  const found = await em.findOne(SetRecord, { id: set });
  if (!found) throw gone('set');
  return found.workspace.id;
}
