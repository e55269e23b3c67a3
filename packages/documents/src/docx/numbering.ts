/** Automatic numbers of Office Open XML as they are printed (ECMA-376 part 1, 17.9). */
import { childOf, childrenOf, type XmlNode, fromSymbolFont } from '@zakuska/core';
import { val } from '../val.js';
import { bullet, numeral } from '../numerals.js';

interface Level {
  start: number;
  format: string;
  text: string;
  font: string;
  /** After which level it starts anew; 0 never. */
  restart: number | undefined;
  legal: boolean;
}
interface List {
  levels: (Level | undefined)[];
  /** Which lists count on together. */
  counters: number[];
  overrides: Map<number, number>;
  begun: boolean;
}

function levelOf(n: XmlNode): Level {
  const props = childOf(n, 'rPr');
  const restart = val(n, 'lvlRestart');
  return {
    start: Number(val(n, 'start') ?? 1),
    format: val(n, 'numFmt') ?? childOf(descendant(n, 'numFmt') ?? n, 'numFmt')?.attributes['val'] ?? 'decimal',
    text: val(n, 'lvlText') ?? '',
    font: (props && childOf(props, 'rFonts')?.attributes['ascii']) ?? '',
    restart: restart === undefined ? undefined : Number(restart),
    legal: childOf(n, 'isLgl') !== undefined,
  };
}
/** A newer format stands in an alternative beside the older one. */
const descendant = (n: XmlNode, name: string): XmlNode | undefined => {
  const other = childOf(n, 'AlternateContent');
  return other && childrenOf(other).find((c) => childOf(c, name) !== undefined);
};

export class Numbering {
  private readonly lists = new Map<string, List>();

  constructor(root: XmlNode | null) {
    if (!root) return;
    const abstract = new Map(childrenOf(root, 'abstractNum').map((a) => [a.attributes['abstractNumId'] ?? '', a]));
    const byStyle = new Map(
      [...abstract.values()].flatMap((a) => (val(a, 'styleLink') === undefined ? [] : [[val(a, 'styleLink') ?? '', a]])) as [string, XmlNode][],
    );
    const counters = new Map<XmlNode, number[]>();
    for (const num of childrenOf(root, 'num')) {
      let a = abstract.get(val(num, 'abstractNumId') ?? '');
      const link = val(a, 'numStyleLink');
      if (link !== undefined) a = byStyle.get(link) ?? a;
      if (!a) continue;
      const levels: (Level | undefined)[] = [];
      for (const l of childrenOf(a, 'lvl')) levels[Number(l.attributes['ilvl'] ?? 0)] = levelOf(l);
      const overrides = new Map<number, number>();
      for (const o of childrenOf(num, 'lvlOverride')) {
        const at = Number(o.attributes['ilvl'] ?? 0);
        const own = childOf(o, 'lvl');
        if (own) levels[at] = levelOf(own);
        const start = val(o, 'startOverride');
        if (start !== undefined) overrides.set(at, Number(start));
      }
      const shared = counters.get(a) ?? [];
      counters.set(a, shared);
      this.lists.set(num.attributes['numId'] ?? '', { levels, counters: shared, overrides, begun: false });
    }
  }

  /** The label of the next paragraph of a list at a level (from 0); null where the list prints none. Counts on. */
  next(numId: string, level: number): string | null {
    const list = this.lists.get(numId);
    const own = list?.levels[level];
    if (!list || !own) return null;
    const { counters, levels } = list;
    if (!list.begun) {
      // a list that says where it starts leaves what was counted before
      for (const [at, start] of list.overrides) counters[at] = start - 1;
      list.begun = true;
    }
    for (let i = 0; i < level; i++) counters[i] ??= levels[i]?.start ?? 1;
    counters[level] = (counters[level] ?? own.start - 1) + 1;
    for (let i = level + 1; i < 9; i++) {
      const restart = levels[i]?.restart;
      if (restart === undefined || (restart > 0 && level < restart)) delete counters[i];
    }
    if (own.format === 'bullet') return bullet(fromSymbolFont(own.text, own.font));
    const text = own.text.replace(/%(\d)/g, (_, d: string) => {
      const at = Number(d) - 1;
      return numeral(counters[at] ?? levels[at]?.start ?? 1, own.legal && at < level ? 'decimal' : (levels[at]?.format ?? 'decimal'));
    });
    return text.trim() ? text.trim() : null;
  }
}
