/** Where a set stands at a service: its link, what has changed since, the responses that come back. */
import { useMutation, useQueryClient } from '@tanstack/react-query';
import type { ServiceRow } from '@zakuska/core';
import { Copy, Download, ExternalLink } from 'lucide-react';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { api, call, wordsOf } from '../api/client.js';
import { useOpenSet } from '../set/context.js';
import { Button } from '../ui/Button.js';
import { copyText } from '../ui/copyText.js';
import type { Going } from './deliver.worker.js';
import type { Placement } from './push.js';
import { Say, say } from '../words/say.js';

interface Props {
  placement: Placement;
  row: ServiceRow;
  pieces: readonly Going[] | null;
  mayEdit: boolean;
  /** Whether the next push goes there. */
  chosen: boolean;
  onChoose: () => void;
}

export function PlacementView({ placement: p, row, pieces, mayEdit, chosen, onChoose }: Props) {
  const { view } = useOpenSet();
  const queries = useQueryClient();
  const prints = new Map(pieces?.map((x) => [x.key, x.print]));
  const changed = pieces ? p.pieces.filter((x) => prints.has(x.key) && prints.get(x.key) !== x.print).length : 0;
  const sent = new Set(p.pieces.map((x) => x.key));
  const fresh = pieces?.filter((x) => !sent.has(x.key)).length ?? 0;
  const pull = useMutation({
    mutationFn: () => call(api.POST('/api/v1/placements/{placement}/pull', { params: { path: { placement: p.id } } })),
    onSuccess: ({ added, total }) => {
      toast.success(
        added ? say('{added} new {added, plural, one {response} other {responses}}; {total} in all.', { added, total }) : say('Nothing new has come in.'),
      );
      void queries.invalidateQueries({ queryKey: ['placements', view.id] });
    },
    onError: (e) => toast.error(wordsOf(e), { duration: 10_000 }),
  });
  const { one } = row.container;
  return (
    <section className="mt-4 border-t border-rule pt-3" aria-label={say('{title} at {name}', { title: p.title, name: row.name })}>
      <div className="grid grid-cols-[1fr_88px] gap-3">
        <div className="min-w-0">
          <h3 className="font-semibold">{p.title}</h3>
          {p.link && (
            <p className="text-[13.5px]">
              <a className="link inline-flex items-center gap-1" href={p.link} target="_blank" rel="noreferrer">
                {say('Open the {one}', { one })} <ExternalLink size={13} aria-hidden />
              </a>
            </p>
          )}
          <p className="text-[13px] text-ink-2">
            <Say
              text="{pieces, plural, one {# entry} other {# entries}} of this set{more}{more2}{more3}"
              values={{
                pieces: p.pieces.length,
                more: changed > 0 && <span className="text-amber"> {say('· {changed} changed since', { changed })}</span>,
                more2: fresh > 0 && say(' · {fresh} not there', { fresh }),
                more3: p.pulls && ` · ${say('{responses, plural, one {# response} other {# responses}}', { responses: p.responses })}`,
              }}
            />
          </p>
        </div>
        {p.link && (
          <img
            src={`/api/v1/placements/${p.id}/qr.svg`}
            alt={say('QR code of {link}', { link: p.link })}
            className="size-22 rounded border border-rule bg-[#fff]"
          />
        )}
      </div>
      <div className="mt-2 flex flex-wrap items-center gap-x-3 gap-y-1.5">
        <Button onClick={() => copyText(p.link, say('The link is in the clipboard.'), say('Open the link and copy its address.'))}>
          <Copy size={15} aria-hidden /> {say('Copy link')}
        </Button>
        {mayEdit && p.pulls && (
          <Button disabled={pull.isPending} onClick={() => pull.mutate()}>
            <Download size={15} aria-hidden /> {say('Fetch responses')}
          </Button>
        )}
        {mayEdit && !chosen && (changed > 0 || fresh > 0) && (
          <Button look="quiet" onClick={onChoose}>
            {say('Bring it up to date')}
          </Button>
        )}
        {p.pulls && (
          <Link to={`/sets/${view.id}/results?of=${p.id}`} className="link text-sm">
            {say('Results')}
          </Link>
        )}
        {Object.entries(p.links).map(([name, href]) => (
          <a key={name} className="link text-sm" href={href} target="_blank" rel="noreferrer">
            {name}
          </a>
        ))}
      </div>
    </section>
  );
}
