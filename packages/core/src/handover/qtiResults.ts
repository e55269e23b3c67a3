/**
 * Results as QTI Results Reporting 2.1 (IMS, "assessmentResult"), one file a person, packed together. Elements and attributes are those
 * of the specification's information model, written from memory: context, testResult, itemResult, responseVariable, outcomeVariable.
 * Items are named as the QTI packages of this set name them.
 */
import { packArchive } from '../formats/archive.js';
import { utf8 } from '../formats/encoding.js';
import { el, writeXml, type XmlElement } from '../formats/xml.js';
import { identifierOf } from '../formats/qti/identifiers.js';
import { gapId, itemIdentifier } from '../formats/qti/v2/build.js';
import { isQuestion, letterOf, maximumOf, rightsOf } from '../item/kinds.js';
import type { Item, QuizSet } from '../item/model.js';
import { finalItems } from '../mark/answerGroups.js';
import type { Response } from '../mark/mark.js';
import type { Results, Sitting } from './results.js';

const NAMESPACE = 'http://www.imsglobal.org/xsd/imsqti_result_v2p1';

const values = (list: readonly string[]): XmlElement[] => list.map((v) => el('value', {}, v));
const outcome = (identifier: string, n: number): XmlElement =>
  el('outcomeVariable', { identifier, cardinality: 'single', baseType: 'float' }, ...values([String(n)]));

interface Given {
  identifier: string;
  cardinality: 'single' | 'multiple' | 'ordered';
  baseType: 'identifier' | 'string' | 'directedPair';
  values: readonly string[];
}
/** What was answered, as response variables, in the identifiers of the packages; a text with gaps has one for each. */
function responsesOf(item: Item, r: Response | undefined): Given[] {
  const one = (cardinality: Given['cardinality'], baseType: Given['baseType'], list: readonly string[] = []): Given[] => [
    { identifier: 'RESPONSE', cardinality, baseType, values: list },
  ];
  switch (item.kind) {
    case 'multiple-choice':
    case 'multiple-response': {
      const chosen = r && 'options' in r ? item.options.flatMap((o, n) => (r.options.includes(o.id) ? [letterOf(n)] : [])) : [];
      return one(item.kind === 'multiple-response' ? 'multiple' : 'single', 'identifier', chosen);
    }
    case 'true-false':
      return one('single', 'identifier', r && 'truth' in r ? [String(r.truth)] : []);
    case 'cloze':
      return item.gaps.map((g, n): Given => {
        const typed = r && 'gaps' in r ? (r.gaps[g.id] ?? '') : '';
        const at = g.kind === 'choice' ? g.options.findIndex((o) => o.id === typed) : -1;
        return {
          identifier: gapId(n),
          cardinality: 'single',
          baseType: g.kind === 'choice' ? 'identifier' : 'string',
          values: g.kind === 'choice' ? (at < 0 ? [] : [letterOf(at)]) : typed ? [typed] : [],
        };
      });
    case 'matching': {
      const rights = rightsOf(item);
      const pairs = r && 'pairs' in r ? r.pairs.flatMap((p, n) => (p !== null && rights.includes(p) ? [`L${n + 1} R${rights.indexOf(p) + 1}`] : [])) : [];
      return one('multiple', 'directedPair', pairs);
    }
    case 'ordering':
      return one('ordered', 'identifier', r && 'order' in r ? r.order.map((s) => `S${item.sequence.indexOf(s) + 1}`) : []);
    default:
      return one('single', 'string', r && 'text' in r && r.text ? [r.text] : []);
  }
}

/** The result of one person as a document. @param maximum what can be had in the whole test */
function assessmentResult(set: QuizSet, s: Sitting, maximum: number): string {
  return writeXml(
    el(
      'assessmentResult',
      { xmlns: NAMESPACE },
      el('context', { sourcedId: s.number || s.mail || s.name }),
      el('testResult', { identifier: identifierOf(set, 'test'), datestamp: s.submittedAt }, outcome('SCORE', s.points), outcome('MAXSCORE', maximum)),
      ...set.items.filter(isQuestion).map((item, n) => {
        const m = s.marks[item.id];
        return el(
          'itemResult',
          {
            identifier: itemIdentifier(item),
            sequenceIndex: n + 1,
            datestamp: s.submittedAt,
            sessionStatus: m?.state === 'by-hand' ? 'pendingExternalScoring' : 'final',
          },
          ...responsesOf(item, s.responses[item.id]).map((g) =>
            el(
              'responseVariable',
              { identifier: g.identifier, cardinality: g.cardinality, baseType: g.baseType },
              el('candidateResponse', {}, ...values(g.values)),
            ),
          ),
          ...(m && m.state !== 'by-hand' ? [outcome('SCORE', m.points), outcome('MAXSCORE', item.points)] : []),
        );
      }),
    ),
  );
}

/** The results of all as a zip, a file a person, named by their places. */
export function qtiResultsZip({ set, sittings }: Results): Uint8Array {
  const maximum = maximumOf(finalItems(set.items, sittings));
  return packArchive(Object.fromEntries(sittings.map((s, n) => [`result-${String(n + 1).padStart(4, '0')}.xml`, utf8(assessmentResult(set, s, maximum))])));
}
