/** The notation with an example of each kind, each one live: what is typed is read at once. */
import { keyProblem, kinds, type Item, readDraft, writeNotation } from '@zakuska/core';
import { useId, useMemo, useState } from 'react';
import { ItemView } from '../item/ItemView.js';
import { Button } from '../ui/Button.js';
import { known, say } from '../words/say.js';

interface Example {
  name: string;
  says: string;
  text: string;
}

const EXAMPLES: Example[] = [
  {
    name: say('Multiple choice'),
    says: say('A number, the question, options with letters. A star behind the key; “Answer: B” below does as well.'),
    text: '1. Which flour takes up most water?\nA) wheat\nB) rye *\n   -> Its pentosans bind water.\nC) maize\nHint: Think of heavy bread.',
  },
  {
    name: say('Multiple response'),
    says: say('Several stars. In brackets a part of the credit, also a negative one.'),
    text: '2. Which of these leaven a dough?\nA) yeast *\nB) steam (50 %) *\nC) salt (-50 %) *\nD) flour\nScoring: weights\nPoints: 2',
  },
  {
    name: say('True or false'),
    says: say('“True or false:” in front, or a part headed so; the answer below.'),
    text: '3. True or false: Salt speeds up fermentation.\nAnswer: false\nFeedback: Salt draws water from the yeast.',
  },
  {
    name: say('Short answer'),
    says: say('Accepted wordings parted by a slash; in quotes where one holds a slash itself.'),
    text: '4. What do bakers call a stiff pre-ferment?\nAnswer: biga / "biga / stiff starter" (50 %)\nMatch: accents ignored, spelling 1',
  },
  { name: say('Number'), says: say('A number, a range, a tolerance; a unit.'), text: '5. At what core temperature is bread done?\nAnswer: 96 ± 2 °C' },
  {
    name: say('Gaps'),
    says: say('Answers in braces in their place. A bar parts wordings; with a star it is a choice.'),
    text: '6. A starter is fed with {flour} and {water | tap water}, then it {*rises | sinks | freezes}. At {=24} °C it doubles.',
  },
  {
    name: say('Matching'),
    says: say('An arrow between the two sides; what has no partner behind “Extra:”.'),
    text: '7. Match each word with its meaning.\npoolish -> a wet pre-ferment\nbiga -> a stiff one\nExtra: a sort of oven | a knife',
  },
  { name: say('Ordering'), says: say('The steps in the right order, with bullets.'), text: '8. Put the steps in order.\n- mix\n- knead\n- prove\n- bake' },
  {
    name: say('Open question'),
    says: say('A model answer and a rubric are for the marker only.'),
    text: '9. Explain why dough is left to rest.\nModel answer: The gluten relaxes and the flour takes up water.\nRubric: 2 points for each reason\nLines: 6\nPoints: 4',
  },
  { name: say('Text to read'), says: say('Asks for nothing.'), text: '10. Wash your hands before you start.\nKind: information' },
  {
    name: say('Title, parts and passages'),
    says: say('Headings with # for the set and ## for parts; what stands under a part is for its questions.'),
    text: '# Bread and dough\n\n## Part B: True or false\nInstructions: Write T or F.\nPassage: The bakery opens at five. **Two** bakers start at midnight.\n\n1. The bakers start before the shop opens.\nAnswer: true\nTags: reading; times\nBloom: understand\nDifficulty: 0.3\nTime: 60 s',
  },
];

const SIGNS: [string, string][] = [
  ['**bold** *italic* `code`', say('emphasis; <u>, <sub> and <sup> as well')],
  ['\\(x^2\\)', say('a formula in TeX')],
  ['\\* \\_ \\{', say('a sign that stands for itself')],
  ['Points: Feedback: Hint: Tags:', say('fields, each on its line under the question')],
  ['If correct: If incorrect: Outcome:', say('more fields; also Label, Item title, Bonus, Required, Shuffle')],
  ['Kind: ordering', say('says the kind where words and shape leave it open')],
  ['(stays last)', say('behind an option that keeps its place when options are shuffled')],
];

export function NotationGuide({ level = 3 }: { level?: 2 | 3 }) {
  const Heading = `h${level}` as const;
  return (
    <div className="grid gap-4">
      <p className="max-w-2xl">
        {say(
          'The reader takes drafts as they come. When a set is opened as text it is written like this, and this is what reads back without loss. Every example can be changed: what it means stands beside it.',
        )}
      </p>
      {EXAMPLES.map((e) => (
        <LiveExample key={e.name} example={e} Heading={Heading} />
      ))}
      <section aria-label={say('Signs')}>
        <Heading className="mb-1 text-base font-bold text-beet">{say('Signs and fields')}</Heading>
        <dl className="grid grid-cols-1 gap-x-6 gap-y-1 sm:grid-cols-[auto_1fr]">
          {SIGNS.map(([sign, says]) => (
            <div key={sign} className="contents">
              <dt className="font-mono text-[14px]">{sign}</dt>
              <dd className="text-ink-2">{says}</dd>
            </div>
          ))}
        </dl>
      </section>
    </div>
  );
}

function LiveExample({ example, Heading }: { example: Example; Heading: 'h2' | 'h3' }) {
  const [text, setText] = useState(example.text);
  const id = useId();
  const { set, diagnostics } = useMemo(() => readDraft(text), [text]);
  const doubts = diagnostics.filter((d) => d.severity !== 'info');
  const again = writeNotation(set).trim();
  return (
    <section aria-labelledby={id} className="border-t border-rule pt-3">
      <Heading id={id} className="text-base font-bold text-beet">
        {example.name}
      </Heading>
      <p className="mb-2 text-ink-2">{example.says}</p>
      <div className="grid items-start gap-4 md:grid-cols-2">
        <div className="grid gap-1.5">
          <textarea
            aria-labelledby={id}
            value={text}
            onChange={(e) => setText(e.target.value)}
            rows={Math.max(3, text.split('\n').length)}
            spellCheck={false}
            className="w-full resize-y rounded border border-rule bg-paper px-3 py-2 font-mono text-[14px]/6"
          />
          <div className="flex gap-2 text-[13.5px]">
            {text !== example.text && (
              <Button look="quiet" onClick={() => setText(example.text)}>
                {say('As it was')}
              </Button>
            )}
            {again !== text.trim() && set.items.length > 0 && (
              <Button look="quiet" onClick={() => setText(again)}>
                {say('Write it in the notation')}
              </Button>
            )}
          </div>
        </div>
        <div aria-live="polite" className="grid gap-2">
          {set.sections?.map((s) => (
            <p key={s.id} className="text-[13.5px] text-ink-2">
              {say('Part “{title}”{what}', { title: s.title, what: s.passage ? say(', with a text to read') : '' })}
            </p>
          ))}
          {set.items.length === 0 && <p className="text-ink-2">{say('No question in this.')}</p>}
          {set.items.map((i) => (
            <Reading key={i.id} item={i} />
          ))}
          {doubts.map((d) => (
            <p key={`${d.code}${d.from}`} className={`note ${d.severity}`}>
              {d.message}
            </p>
          ))}
        </div>
      </div>
    </section>
  );
}

function Reading({ item }: { item: Item }) {
  return (
    <div className="rounded border border-rule bg-sheet px-3 py-2">
      <p className="text-[13px] text-ink-2">
        {known(kinds[item.kind].name)}
        {keyProblem(item) ? say(' · no key') : ''}
      </p>
      <ItemView item={item} />
    </div>
  );
}
