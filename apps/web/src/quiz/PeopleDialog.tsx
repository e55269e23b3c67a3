/** The class of a quiz: everybody with their code, their link, and whether they have handed in. */
import { useQuery } from '@tanstack/react-query';
import { Copy, Mail, Printer } from 'lucide-react';
import { api, call, wordsOf } from '../api/client.js';
import { Busy } from '../frame/Frame.js';
import { Button } from '../ui/Button.js';
import { copyText } from '../ui/copyText.js';
import { Modal } from '../ui/Modal.js';
import { tabbed } from '../ui/tabbed.js';

interface Person {
  id: string;
  name: string;
  mail: string;
  extra: number;
  code: string;
  link: string;
  begun: number;
  handedIn: number;
}
/** A mail to one person, for the mail program of the teacher. */
export const mailTo = (p: Pick<Person, 'name' | 'mail' | 'code' | 'link'>, title: string): string => {
  const text = `Hello ${p.name},\n\nhere is your link to “${title}”:\n${p.link}\n\nIf it asks for a code, type ${p.code}. The link and the code are yours alone.\n`;
  return `mailto:${encodeURIComponent(p.mail)}?subject=${encodeURIComponent(title)}&body=${encodeURIComponent(text)}`;
};
/** Names, mails, codes and links, as spreadsheets take them. */
export const peopleTable = (people: readonly Person[]): string =>
  tabbed([['Name', 'Mail', 'Code', 'Link'], ...people.map((p) => [p.name, p.mail, p.code, p.link])]);

const stateOf = (p: Person): string => (p.handedIn ? (p.handedIn === 1 ? 'handed in' : `handed in ${p.handedIn} times`) : p.begun ? 'under way' : 'not begun');

export function PeopleDialog({ delivery, title, personal, onClose }: { delivery: string; title: string; personal: boolean; onClose: () => void }) {
  const people = useQuery({
    queryKey: ['people', delivery],
    queryFn: () => call(api.POST('/api/v1/deliveries/{delivery}/people', { params: { path: { delivery } } })),
  });
  const all = people.data ?? [];
  return (
    <Modal
      open
      wide
      onClose={onClose}
      title={`Who takes “${title}”`}
      foot={
        personal &&
        all.length > 0 && (
          <>
            <Button onClick={() => window.open(`/api/v1/deliveries/${delivery}/slips`, '_blank', 'noopener')}>
              <Printer size={15} aria-hidden /> Slips to print
            </Button>
            <Button onClick={() => copyText(peopleTable(all), `${all.length} codes are in the clipboard. Paste them into a spreadsheet or a mail merge.`)}>
              <Copy size={15} aria-hidden /> Copy all codes
            </Button>
          </>
        )
      }
    >
      {people.isPending && <Busy what="Fetching" />}
      {people.isError && <p className="text-brick">{wordsOf(people.error)}</p>}
      {people.data && all.length === 0 && <p className="text-ink-2">The class has no people any more.</p>}
      {all.length > 0 && (
        <table className="w-full text-sm">
          <thead>
            <tr className="text-left text-[13px] text-ink-2">
              <th className="py-1 font-semibold">Name</th>
              {personal && <th className="py-1 font-semibold">Code</th>}
              <th className="py-1 font-semibold">Extra time</th>
              <th className="py-1 font-semibold">State</th>
              {personal && (
                <th>
                  <span className="sr-only">Send</span>
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
                <td className="py-1">{p.extra > 0 && `${p.extra} %`}</td>
                <td className="py-1 text-ink-2">{stateOf(p)}</td>
                {personal && (
                  <td className="py-1 text-right whitespace-nowrap">
                    <Button
                      look="quiet"
                      aria-label={`Copy the link of ${p.name}`}
                      onClick={() => copyText(p.link, `The link of ${p.name} is in the clipboard.`)}
                    >
                      <Copy size={15} aria-hidden />
                    </Button>
                    {p.mail && (
                      <a className="link inline-flex items-center gap-1 px-2" href={mailTo(p, title)}>
                        <Mail size={15} aria-hidden /> Mail
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
