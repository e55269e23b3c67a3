/** The less common fields of an item, as lines name them. */
import { bloomLevels, type Item } from '../../item/model.js';
import type { FieldName } from '../model/fields.js';
import type { ItemBuilder } from './itemBuilder.js';
import { scoringNamed } from './choice.js';
import type { Stretch } from '../surface/stretch.js';

const BLOOM_WORDS: Record<string, (typeof bloomLevels)[number]> = {
  remembering: 'remember',
  recall: 'remember',
  knowledge: 'remember',
  understanding: 'understand',
  comprehension: 'understand',
  applying: 'apply',
  application: 'apply',
  analysing: 'analyse',
  analyzing: 'analyse',
  analyze: 'analyse',
  analysis: 'analyse',
  evaluating: 'evaluate',
  evaluation: 'evaluate',
  creating: 'create',
  synthesis: 'create',
};

const yes = (v: string): boolean => /^y/i.test(v);

/** Sets what a field line says; a value that cannot be read is doubted and kept as a tag, so that nothing is lost. */
export function settingsOf(m: ItemBuilder, item: Item, name: FieldName, s: Stretch, more: Record<string, unknown>, line: number): void {
  const v = m.words(s, 'field');
  const level = (change: object): void => void (more['level'] = { ...(more['level'] as object | undefined), ...change });
  const asTag = (): void => void (more['tags'] = [...((more['tags'] as string[] | undefined) ?? []), v.toLowerCase()]);
  const unread = (): void => {
    asTag();
    m.doubt('field-unknown', 'warning', `${m.name}: “${v}” cannot be read as ${name}; kept as a tag.`, line);
  };
  switch (name) {
    case 'difficulty': {
      const n = /^(0(?:[.,]\d+)?|1(?:[.,]0+)?)$/.exec(v);
      if (n) level({ difficulty: Number(v.replace(',', '.')) });
      else asTag();
      return;
    }
    case 'bloom': {
      const word = v.toLowerCase().replace(/[^a-z].*$/, '');
      const bloom = bloomLevels.find((b) => b === word) ?? BLOOM_WORDS[word];
      if (bloom) level({ bloom });
      else unread();
      return;
    }
    case 'depth': {
      const n = /[1-4]/.exec(v);
      if (n) level({ depth: Number(n[0]) });
      else unread();
      return;
    }
    case 'time': {
      const t = /^(\d+(?:[.,]\d+)?)\s*(?:(s|sec\w*|sek\w*)|(m|min\w*))?\.?$/i.exec(v);
      if (t && Number(t[1]) > 0) more['timeLimit'] = Number((t[1] ?? '').replace(',', '.')) * (t[3] ? 60 : 1);
      else unread();
      return;
    }
    case 'title':
    case 'label':
      more[name] = v;
      return;
    case 'bonus':
      m.bonus = yes(v);
      return;
    case 'required':
    case 'shuffle':
      more[name] = yes(v);
      return;
    case 'model':
      if (item.kind === 'essay') more['modelAnswer'] = s.rich;
      return;
    case 'rubric':
      if (item.kind === 'essay') more['rubric'] = s.rich;
      return;
    case 'lines':
      if (item.kind === 'essay') more['lines'] = Number(v);
      return;
    case 'unit':
      if (item.kind === 'numeric') more['unit'] = v;
      return;
    case 'scoring': {
      const scoring = scoringNamed(v);
      if (scoring && item.kind === 'multiple-response') more['scoring'] = scoring;
      else if (!scoring) unread();
      return;
    }
    case 'bank':
      if (item.kind === 'cloze') more['wordBank'] = s.split(/[|;,]/g).map((w) => w.plain);
      return;
    default:
      return;
  }
}
