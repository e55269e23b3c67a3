/** How Office Open XML says the values of properties (ECMA-376 part 1, 22.9). */
import { childOf, type XmlNode } from '@zakuska/core';

/** The `val` of a property of an element, which is how Office Open XML says nearly everything. */
export const val = (n: XmlNode | undefined, name: string): string | undefined => (n ? childOf(n, name)?.attributes['val'] : undefined);

const OFF = /^(?:0|false|off|none)$/;
/** A switch of properties: there and not off; undefined where it is not there. */
export function flag(props: XmlNode, name: string): boolean | undefined {
  const n = childOf(props, name);
  return n && !OFF.test(n.attributes['val'] ?? 'on');
}
