/** Everybody on the class lists of a workspace, as sheets know them. */
import { queryOptions } from '@tanstack/react-query';
import { personCode } from '@zakuska/core';
import { classesOf, fetchClass } from '../../api/classes.js';
import type { Schemas } from '../../api/client.js';

export interface ListedPeople {
  names: readonly string[];
  /** Names by the codes of sheets. */
  byCode: ReadonlyMap<string, string>;
}

/** People by their names; of several of one name each with what tells them apart, so that nobody gets the answers of another. */
export function listedPeople(classes: readonly Pick<Schemas['ClassView'], 'name' | 'members'>[]): ListedPeople {
  const all = classes.flatMap((c) => c.members.map((m) => ({ ...m, group: c.name })));
  const times = (of: readonly string[]): Map<string, number> => of.reduce((n, x) => n.set(x, (n.get(x) ?? 0) + 1), new Map<string, number>());
  const bare = times(all.map((m) => m.name));
  const told = (m: (typeof all)[number]): string => ((bare.get(m.name) ?? 0) > 1 ? `${m.name} (${m.number || m.mail || m.group})` : m.name);
  const again = times(all.map(told));
  const byCode = new Map(all.map((m) => [personCode(m.id), (again.get(told(m)) ?? 0) > 1 ? `${m.name} (${personCode(m.id)})` : told(m)]));
  return { byCode, names: [...new Set(byCode.values())].sort((a, b) => a.localeCompare(b)) };
}

export const peopleOfClasses = (workspace: string) =>
  queryOptions({
    queryKey: ['people of classes', workspace],
    queryFn: async ({ client }) => {
      const list = await client.fetchQuery(classesOf(workspace));
      return listedPeople(await Promise.all(list.map((c) => fetchClass(c.id))));
    },
  });
