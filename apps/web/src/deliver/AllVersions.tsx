/** All versions at once to a connected service, each to a place of its own, and to a group of its own where the service has groups. */
import { type Drawn, type ServiceRow } from '@zakuska/core';
import { Send } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import { type Schemas, wordsOf } from '../api/client.js';
import { Button } from '../ui/Button.js';
import { Select } from '../ui/Field.js';
import type { PushView } from './push.js';
import { inSentence, say } from '../words/say.js';

/** What of a push each version says for itself. */
interface OneOfThem {
  version: string;
  language?: string;
  container?: string;
  part?: string;
}
interface Props {
  drawn: Drawn;
  row: ServiceRow;
  containers: readonly Schemas['ContainerView'][];
  /** The language that they go out in; undefined for that of the set. */
  language: string | undefined;
  /** Where items of the set stand already. */
  placements: readonly Schemas['PlacementView'][];
  send: (body: OneOfThem) => Promise<PushView>;
  /** Gets the first of the pushes; the others are found in the list. */
  onSent: (push: PushView) => void;
}

export function AllVersions({ drawn, row, language, containers, placements, send, onSent }: Props) {
  const fresh = containers.filter((c) => c.fresh);
  const [place, setPlace] = useState<string>();
  const [parts, setParts] = useState<Record<string, string>>({});
  const [busy, setBusy] = useState(false);
  const at = fresh.find((c) => c.id === place) ?? fresh[0];
  const groups = at?.parts ?? [];
  /** Where a version stands already: it is brought up to date there. */
  const there = (version: string): string | undefined =>
    placements.find((p) => p.version === version && p.language === (language ?? '') && containers.some((c) => c.id === p.container))?.container;
  /** Versions take turns among the groups, until somebody says otherwise. */
  const partOf = (name: string, i: number): string => parts[name] ?? groups[i % Math.max(1, groups.length)]?.id ?? '';
  const push = async (): Promise<void> => {
    setBusy(true);
    let first: PushView | undefined;
    let sent = 0;
    try {
      for (const [i, { name }] of drawn.versions.entries()) {
        const known = there(name);
        const container = known ?? at?.id;
        const part = known === undefined ? partOf(name, i) : '';
        const pushed = await send({
          version: name,
          ...(language !== undefined && { language }),
          ...(container !== undefined && { container }),
          ...(part && { part }),
        });
        first ??= pushed;
        sent++;
      }
      toast.success(say('{sent, plural, one {# version} other {# versions}} on their way.', { sent }));
    } catch (e) {
      toast.error(
        say('{sent} of {versions} versions are on their way; version {name} was not sent: {words}', {
          sent,
          versions: drawn.versions.length,
          name: drawn.versions[sent]?.name ?? '',
          words: wordsOf(e),
        }),
        {
          duration: 10_000,
        },
      );
    } finally {
      setBusy(false);
      if (first) onSent(first);
    }
  };
  return (
    <section aria-label={say('All versions')} className="mt-4 border-t border-rule pt-3 text-sm">
      <h3 className="font-semibold">{say('All versions, each in a {one} of its own', { one: row.container.one })}</h3>
      {fresh.length > 1 && (
        <Select aria-label={say('Where the versions go')} className="mt-1" value={at?.id} onChange={(e) => setPlace(e.target.value)}>
          {fresh.map((c) => (
            <option key={c.id} value={c.id}>
              {c.title}
            </option>
          ))}
        </Select>
      )}
      <ul className="my-2 grid gap-1">
        {drawn.versions.map(({ name, items }, i) => (
          <li key={name} className="grid grid-cols-[auto_minmax(0,1fr)] items-center gap-2">
            <span>
              <b>{name}</b> <span className="text-ink-2">{say('{items, plural, one {# item} other {# items}}', { items: items.length })}</span>
            </span>
            {there(name) !== undefined && <span className="text-ink-2">{say('is brought up to date where it stands')}</span>}
            {there(name) === undefined && groups.length > 0 && (
              <Select
                aria-label={say('Version {name}: {label}', { name, label: row.parts ? inSentence(row.parts.label) : say('goes') })}
                className="py-1! text-sm"
                value={partOf(name, i)}
                onChange={(e) => setParts({ ...parts, [name]: e.target.value })}
              >
                <option value="">{row.parts?.none ?? say('behind all that is there')}</option>
                {groups.map((p) => (
                  <option key={p.id} value={p.id}>
                    {p.title}
                  </option>
                ))}
              </Select>
            )}
          </li>
        ))}
      </ul>
      <Button disabled={busy} onClick={() => void push()}>
        <Send size={15} aria-hidden /> {say('Push {versions}', { versions: drawn.versions.map((v) => v.name).join(', ') })}
      </Button>
    </section>
  );
}
