/** Publishes sets as quizzes by link and entry code. */
import { Injectable } from '@nestjs/common';
import { EntityManager } from '@mikro-orm/postgresql';
import { goingSet, goingToChoose, isForClass, keyProblem, newId, type QuizRules, type QuizSet, rulesProblem, storable, usualRules } from '@zakuska/core';
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
  async publish(
    setId: string,
    how: { rules?: QuizRules; title?: string; version?: string; language?: string; choice?: readonly string[]; classList?: string },
  ): Promise<Delivery> {
    const em = this.em.fork();
    const rules = how.rules ?? usualRules();
    const wrong = rulesProblem(rules);
    if (wrong) throw new Problem(422, 'rules', wrong);
    const byList = isForClass(rules);
    const classList = byList && how.classList ? await em.findOne(ClassList, { id: how.classList, workspace: { id: await workspaceOf(em, setId) } }) : null;
    if (byList && !classList) throw new Problem(422, 'class-missing', 'Choose the class that takes the quiz.');
    const { document } = await this.documents.read(em, setId);
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
    const d = em.create(Delivery, {
      id: newId(),
      set: em.getReference(SetRecord, setId),
      code: newCode(),
      title: storable(how.title ?? set.title),
      snapshot: set,
      version: how.version ?? '',
      language: how.choice?.length ? '' : (how.language ?? ''),
      rules,
      classList,
    });
    await em.persistAndFlush(d);
    if (classList) await invite(em, d.id);
    return d;
  }
}

async function workspaceOf(em: EntityManager, set: string): Promise<string> {
  const found = await em.findOne(SetRecord, { id: set });
  if (!found) throw gone('set');
  return found.workspace.id;
}
