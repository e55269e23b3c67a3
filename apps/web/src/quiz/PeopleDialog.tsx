/** The class of a quiz: everybody with their code, their link, and whether they have handed in. */
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Copy, Mail, Printer, Send } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import { api, call, type Schemas, wordsOf } from '../api/client.js';
import { Busy } from '../frame/Frame.js';
import { Button } from '../ui/Button.js';
import { copyText } from '../ui/copyText.js';
import { Modal } from '../ui/Modal.js';
import { tabbed } from '../ui/tabbed.js';
import { ArrangeDialog, arrangedWords } from './ArrangeDialog.js';
import { locale, say } from '../words/say.js';

type Person = Schemas['InvitedView'];

/** A mail to one person, for the mail program of the teacher. */
export const mailTo = ({ mail, letter }: Pick<Person, 'mail' | 'letter'>): string =>
  `mailto:${encodeURIComponent(mail)}?subject=${encodeURIComponent(letter.subject)}&body=${encodeURIComponent(letter.text)}`;
/** Names, mails, codes and links, as spreadsheets take them. */
export const peopleTable = (people: readonly Pick<Person, 'name' | 'mail' | 'code' | 'link'>[]): string =>
  tabbed([[say('Name'), say('Mail'), say('Code'), say('Link')], ...people.map((p) => [p.name, p.mail, p.code, p.link])]);

/** How the last mail to somebody stands. */
function MailState({ mailed }: { mailed: NonNullable<Person['mailed']> }) {
  if (mailed.state === 'failed') return <span className="whitespace-normal text-brick">{mailed.problem}</span>;
  if (mailed.state === 'waiting') return <span className="text-ink-2">{say('on its way')}</span>;
  return (
    <span className="text-dill">
      {say('written to, {what}', { what: new Date(mailed.at).toLocaleString(locale(), { dateStyle: 'short', timeStyle: 'short' }) })}
    </span>
  );
}

const stateOf = (p: Person): string =>
  p.handedIn ? say('{handedIn, plural, one {handed in} other {handed in # times}}', { handedIn: p.handedIn }) : p.begun ? say('under way') : say('not begun');

export function PeopleDialog({ delivery, title, personal, onClose }: { delivery: string; title: string; personal: boolean; onClose: () => void }) {
  const queries = useQueryClient();
  const path = { params: { path: { delivery } } };
  const people = useQuery({
    queryKey: ['people', delivery],
    queryFn: () => call(api.POST('/api/v1/deliveries/{delivery}/people', path)),
    // what is on its way arrives by itself
    refetchInterval: ({ state }) => (state.data?.people.some((p) => p.mailed?.state === 'waiting') ? 2000 : false),
  });
  const write = useMutation({
    mutationFn: (members?: string[]) => call(api.POST('/api/v1/deliveries/{delivery}/mails', { ...path, body: members ? { members } : {} })),
    onSuccess: (now) => queries.setQueryData(['people', delivery], now),
    onError: (e) => toast.error(wordsOf(e)),
  });
  const [arranging, setArranging] = useState<Person>();
  const all = people.data?.people ?? [];
  const canMail = personal && people.data?.mails === true;
  const unwritten = all.filter((p) => p.mail && !p.mailed).length;
  const versions = all.some((p) => p.delivery !== all[0]?.delivery);
  const without = all.filter((p) => !p.mail).length;
  return (
    <Modal
      open
      wide
      onClose={onClose}
      title={say('Who takes “{title}”', { title })}
      foot={
        personal &&
        all.length > 0 && (
          <>
            {canMail && unwritten > 0 && (
              <Button look="primary" disabled={write.isPending} onClick={() => write.mutate(undefined)}>
                <Send size={15} aria-hidden /> {say('Write to {unwritten, plural, one {1 person} other {# people}}', { unwritten })}
              </Button>
            )}
            <Button onClick={() => window.open(`/api/v1/deliveries/${delivery}/slips`, '_blank', 'noopener')}>
              <Printer size={15} aria-hidden /> {say('Slips to print')}
            </Button>
            <Button
              onClick={() =>
                copyText(peopleTable(all), say('{all} codes are in the clipboard. Paste them into a spreadsheet or a mail merge.', { all: all.length }))
              }
            >
              <Copy size={15} aria-hidden /> {say('Copy all codes')}
            </Button>
          </>
        )
      }
    >
      {arranging && <ArrangeDialog delivery={delivery} person={arranging} onClose={() => setArranging(undefined)} />}
      {people.isPending && <Busy what={say('Fetching')} />}
      {people.isError && <p className="text-brick">{wordsOf(people.error)}</p>}
      {people.data && all.length === 0 && <p className="text-ink-2">{say('The class has no people any more.')}</p>}
      {canMail && (
        <p className="mb-2 text-sm text-ink-2" role="status">
          {say('Each gets a mail with their own link and code, in the language of the quiz.{more}', {
            more: without > 0 && say(' {without, plural, one {1 has} other {# have}} no address in the class.', { without }),
          })}
        </p>
      )}
      {all.length > 0 && (
        <table className="w-full text-sm">
          <thead>
            <tr className="text-left text-[13px] text-ink-2">
              <th className="py-1 font-semibold">{say('Name')}</th>
              {personal && <th className="py-1 font-semibold">{say('Code')}</th>}
              {versions && <th className="py-1 font-semibold">{say('Version')}</th>}
              <th className="py-1 font-semibold">{say('Extra time')}</th>
              <th className="py-1 font-semibold">{say('Arranged')}</th>
              <th className="py-1 font-semibold">{say('State')}</th>
              {personal && (
                <th>
                  <span className="sr-only">{say('Send')}</span>
                </th>
              )}
            </tr>
          </thead>
          <tbody>
            {all.map((p) => (
              <tr key={p.id} className="border-t border-rule-2">
                <th scope="row" className="py-1 text-left font-normal">
                  {p.name}
                </th>
                {personal && <td className="py-1 font-mono tracking-wide">{p.code}</td>}
                {versions && <td className="py-1">{p.version}</td>}
                <td className="py-1">{p.extra > 0 && `${p.extra} %`}</td>
                <td className="py-1">
                  <button type="button" className="link" aria-label={say('Arrange with {name}', { name: p.name })} onClick={() => setArranging(p)}>
                    {arrangedWords(p) || say('as all')}
                  </button>
                </td>
                <td className="py-1 text-ink-2">{stateOf(p)}</td>
                {personal && (
                  <td className="flex items-center justify-end gap-1 py-1 text-right whitespace-nowrap">
                    <Button
                      look="quiet"
                      aria-label={say('Copy the link of {name}', { name: p.name })}
                      onClick={() => copyText(p.link, say('The link of {name} is in the clipboard.', { name: p.name }))}
                    >
                      <Copy size={15} aria-hidden />
                    </Button>
                    {p.mailed && <MailState mailed={p.mailed} />}
                    {canMail && p.mailed && p.mailed.state !== 'waiting' && (
                      <Button
                        look="quiet"
                        disabled={write.isPending}
                        aria-label={say('Write to {name} again', { name: p.name })}
                        onClick={() => write.mutate([p.id])}
                      >
                        {say('Again')}
                      </Button>
                    )}
                    {p.mail && !canMail && (
                      <a className="link inline-flex items-center gap-1 px-2" href={mailTo(p)}>
                        <Mail size={15} aria-hidden /> {say('Mail')}
                      </a>
                    )}
                  </td>
                )}
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </Modal>
  );
}
