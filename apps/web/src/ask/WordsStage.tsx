/** Items from a list of words: the list, what each word means (chosen, or in one's own words), and the items beside it. */
import { type Asking, askings, type SourceText } from '@zakuska/core';
import type { VocabularyWish } from '@zakuska/core/drafter';
import { useMemo, useState } from 'react';
import { useOpenSet } from '../set/context.js';
import { useSourceTexts } from '../sources/sources.js';
import { Field, Input, Select, TextArea } from '../ui/Field.js';
import { Failed } from '../worker/Failed.js';
import { useLatest } from '../worker/latest.js';
import { BLANK } from '../ui/blank.js';
import { Ways } from './Ways.js';
import type { SaidOfWord } from './drafter.worker.js';
import { DraftedList, type Offered } from './DraftedList.js';
import { type ListDrafted, wordsCall } from './drafting.js';
import { retold } from '../words/retold.js';
import { Say, say } from '../words/say.js';

const ASKING: Readonly<Record<Asking, string>> = {
  definition: say('their meaning'),
  example: say('an example with a blank'),
  synonym: say('another word for it'),
  meaning: say('the word, for its meaning'),
  mix: say('all of these in turn'),
};
const AS: Readonly<Record<VocabularyWish['as'], string>> = { choice: say('to choose'), typed: say('to type'), matching: say('to match') };
const NONE: readonly SourceText[] = [];
const OWN = 'own';

export default function WordsStage() {
  const { view, document: doc, mayEdit } = useOpenSet();
  const { texts } = useSourceTexts(view.id);
  const [text, setText] = useState('');
  const [said, setSaid] = useState<Readonly<Record<string, SaidOfWord>>>({});
  const [wish, setWish] = useState<VocabularyWish>({ ask: 'definition', as: 'choice', options: 4 });
  const question = useMemo(() => ({ text, said, wish, sources: texts ?? NONE, language: doc.set.language }), [text, said, wish, texts, doc.set.language]);
  const { value, busy, failed, again } = useLatest(question, wordsCall);
  const put = (part: Partial<VocabularyWish>): void => setWish((w) => ({ ...w, ...part }));
  const setSaidOf = (word: string, what: SaidOfWord): void => setSaid((s) => ({ ...s, [word]: { ...s[word], ...what } }));
  const offered = useMemo<Offered[]>(() => (value?.drafted ?? []).map(({ item, word, how }) => ({ key: word, item, beside: <p>{how}</p> })), [value]);
  if (!mayEdit)
    return (
      <main className="p-6">
        <p>{say('You may read this set. Who may edit it can make items from words here.')}</p>
      </main>
    );
  return (
    <main className="grid min-h-0 grid-cols-1 content-start gap-4 overflow-auto p-4 sm:px-6" tabIndex={0}>
      <Ways set={view.id} />
      <p className="text-lg/9">
        <Say
          text="Ask for {what} by {select}, {select2}{more}."
          values={{
            what: value?.list.words.length ? say('{words, plural, one {# word} other {# words}}', { words: value.list.words.length }) : say('the words'),
            select: (
              <select
                aria-label={say('Ask by')}
                className={BLANK}
                value={wish.ask}
                disabled={wish.as === 'matching'}
                onChange={(e) => put({ ask: e.target.value as Asking })}
              >
                {askings
                  .filter((a) => !(wish.as === 'typed' && a === 'meaning'))
                  .map((a) => (
                    <option key={a} value={a}>
                      {ASKING[a]}
                    </option>
                  ))}
              </select>
            ),
            select2: (
              <select
                aria-label={say('Answered')}
                className={BLANK}
                value={wish.as}
                onChange={(e) =>
                  put({
                    as: e.target.value as VocabularyWish['as'],
                    ...(e.target.value !== 'choice' && wish.ask === 'meaning' && { ask: 'definition' as const }),
                  })
                }
              >
                {Object.entries(AS).map(([as, name]) => (
                  <option key={as} value={as}>
                    {name}
                  </option>
                ))}
              </select>
            ),
            more: wish.as === 'choice' && (
              <>
                {say(' among ')}
                <input
                  type="number"
                  min={2}
                  max={8}
                  aria-label={say('Options of each')}
                  className={`${BLANK} w-12`}
                  value={wish.options}
                  onChange={(e) => put({ options: Math.min(8, Math.max(2, Math.round(e.target.valueAsNumber) || 4)) })}
                />
              </>
            ),
          }}
        />
      </p>
      <div className="grid gap-6 lg:grid-cols-2">
        <div className="grid content-start gap-4">
          <Field
            label={say('The words')}
            hint={say(
              'One a line or with commas between. What a word means may stand behind it: “roux – flour cooked in fat”, in any language; else English words are looked up.',
            )}
          >
            {(id, note) => (
              <TextArea
                id={id}
                aria-describedby={note}
                rows={6}
                maxLength={200_000}
                className="max-h-[30vh] min-h-32 overflow-auto"
                placeholder={'knead\nsimmer\nroux – flour cooked in fat'}
                value={text}
                onChange={(e) => setText(e.target.value)}
              />
            )}
          </Field>
          {value && value.list.unread.length > 0 && (
            <p className="text-[13.5px] text-amber">
              {say('{unread, plural, one {# line} other {# lines}} {unread, plural, one {is} other {are}} no word: {unread2}', {
                unread: value.list.unread.length,
                unread2: value.list.unread.slice(0, 3).join(' · ').slice(0, 200),
              })}
            </p>
          )}
          {value && value.words.length > 0 && <Meanings value={value} said={said} examples={wish.ask === 'example' || wish.ask === 'mix'} onSay={setSaidOf} />}
        </div>
        <div className="grid content-start gap-3">
          {failed && <Failed what={say('Nothing could be made of these words.')} again={again} />}
          {value && text.trim() && !failed && (
            <DraftedList
              offered={offered}
              busy={busy}
              note={value.without.map((w) => (
                <span key={w.word} className="block text-amber">
                  {w.word}: {retold(w.why)}
                </span>
              ))}
            />
          )}
        </div>
      </div>
    </main>
  );
}

/** What each word means: a meaning of the database, or one's own. */
interface MeaningsProps {
  value: ListDrafted;
  said: Readonly<Record<string, SaidOfWord>>;
  /** Words are asked for by examples: there may be one of one's own. */
  examples: boolean;
  onSay: (word: string, what: SaidOfWord) => void;
}
function Meanings({ value, said, examples, onSay }: MeaningsProps) {
  return (
    <table className="w-full border-collapse text-sm [&_td]:p-1.5 [&_td]:align-top [&_th]:p-1.5 [&_th]:text-left [&_th]:align-top">
      <thead>
        <tr className="border-b border-rule">
          <th scope="col">{say('Word')}</th>
          <th scope="col">{say('What it means here')}</th>
        </tr>
      </thead>
      <tbody>
        {value.words.map((w, i) => {
          const choices = value.choices[i] ?? [];
          // a gloss of the list is one's own
          const own = said[w.word]?.gloss !== undefined || (w.gloss !== undefined && said[w.word]?.sense === undefined) || !choices.length;
          return (
            <tr key={w.word} className="border-b border-rule-2">
              <th scope="row" dir="auto">
                {w.word}
              </th>
              <td className="grid gap-1">
                {choices.length > 0 && (
                  <Select
                    aria-label={say('Meaning of {word}', { word: w.word })}
                    value={own ? OWN : (w.sense?.id ?? '')}
                    onChange={(e) =>
                      onSay(w.word, e.target.value === OWN ? { gloss: w.gloss ?? w.sense?.gloss ?? '' } : { sense: e.target.value, gloss: undefined })
                    }
                  >
                    {choices.map((s) => (
                      <option key={s.id} value={s.id}>
                        {s.class}: {s.gloss}
                      </option>
                    ))}
                    <option value={OWN}>{say('in my own words …')}</option>
                  </Select>
                )}
                {own && (
                  <Input
                    aria-label={say('What {word} means, in your own words', { word: w.word })}
                    placeholder={say('in your own words')}
                    maxLength={1000}
                    value={said[w.word]?.gloss ?? w.gloss ?? ''}
                    onChange={(e) => onSay(w.word, { gloss: e.target.value })}
                  />
                )}
                {examples && (
                  <Input
                    aria-label={say('An example of your own with {word}', { word: w.word })}
                    placeholder={say('a sentence with “{word}” in it', { word: w.word })}
                    maxLength={1000}
                    value={said[w.word]?.example ?? ''}
                    onChange={(e) => onSay(w.word, { example: e.target.value })}
                  />
                )}
                {!own && w.sense && w.sense.examples.length > 0 && (
                  <span className="text-[13px] text-ink-2">e.g. {w.sense.examples.slice(0, 2).join('; ')}</span>
                )}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
