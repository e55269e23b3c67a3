import { childOf, type XmlNode } from '@zakuska/core';

/** The `val` of a property of an element, which is how Office Open XML says nearly everything. */
export const val = (n: XmlNode | undefined, name: string): string | undefined => (n ? childOf(n, name)?.attributes['val'] : undefined);
