/** Options with and without full stops or capitals. */
import { plainOf } from '../../item/richText.js';
import { guideline, type Rule } from '../finding.js';
import { optionsOf } from '../options.js';

const startsCapital = (t: string): boolean | null => (/^\p{L}(?!\p{L})/u.test(t) ? null : /^\p{Lu}/u.test(t) ? true : /^\p{Ll}/u.test(t) ? false : null);
export const optionForm: Rule = {
  code: 'options-unequal-form',
  name: 'Options written in different ways',
  why: 'One option with a full stop or a capital among others without looks like the one that was worked on.',
  source: guideline(23),
  ofItem(item) {
    const options = optionsOf(item);
    if (options.length < 3) return [];
    const texts = options.map((o) => plainOf(o.content));
    const stops = texts.filter((t) => /[^.]\.$/.test(t)).length;
    if (stops > 0 && stops < texts.length) {
      const few = stops <= texts.length / 2;
      return [
        {
          severity: 'note',
          place: 'options',
          message: `${stops} of ${texts.length} options end with a full stop.`,
          ...(few && {
            fix: {
              label: 'Take the full stops off',
              operations: [
                {
                  type: 'change' as const,
                  id: item.id,
                  set: { options: options.map((o) => ({ ...o, content: o.content.replace(/([^.])\.((?:<\/\w+>)*)$/, '$1$2') })) },
                },
              ],
            },
          }),
        },
      ];
    }
    // names of code are written as they are
    const capitals = texts.map((t, i) => (/^\s*<code>/.test(options[i]?.content ?? '') ? null : startsCapital(t)));
    const upper = capitals.filter((c) => c === true).length;
    // names and chemical signs begin with a capital for reasons of their own: only one that differs from at least two others is told
    const lower = capitals.filter((c) => c === false).length;
    if (lower === 1 && upper >= 2 && texts.every((t) => t.split(' ').length > 1))
      return [{ severity: 'note', place: 'options', message: 'One option begins with a small letter, the others with a capital.' }];
    return [];
  },
  examples: {
    found: ['1. What is rye?\na) a grain *\nb) a fish.\nc) a fat'],
    fine: [
      '1. What is true of yeast?\na) It is a fungus. *\nb) It is a plant.\nc) It is a fat.',
      '1. Which is true?\na) T is dominant *\nb) t is dominant\nc) The plant is dead',
      '1. Which sugar is it?\na) D-glucose *\nb) lactose\nc) sucrose',
    ],
  },
};
