/** Learning platforms in whose courses quizzes of the workspace open (LTI 1.3): which there are, and how another is registered. */
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Copy } from 'lucide-react';
import { type FormEvent, useState } from 'react';
import { toast } from 'sonner';
import { api, call, wordsOf } from '../api/client.js';
import { Busy } from '../frame/Frame.js';
import { useMayIn } from '../signin/session.js';
import { Button } from '../ui/Button.js';
import { copyText } from '../ui/copyText.js';
import { Field, Input } from '../ui/Field.js';
import { Modal } from '../ui/Modal.js';
import { say } from '../words/say.js';

/** What a platform shows to who registers a tool by hand. */
const FIELDS = {
  name: say('Name of the platform'),
  issuer: say('Issuer'),
  clientId: say('Client id'),
  deployment: say('Deployment id'),
  authUrl: say('Address to sign people in'),
  tokenUrl: say('Address for access tokens'),
  jwksUrl: say('Address of its public keys'),
} as const;
type Fields = Record<keyof typeof FIELDS, string>;
const EMPTY: Fields = { name: '', issuer: '', clientId: '', deployment: '', authUrl: '', tokenUrl: '', jwksUrl: '' };

export function PlatformsDialog({ workspace, onClose }: { workspace: string; onClose: () => void }) {
  const admin = useMayIn(workspace, 'administrator');
  const queries = useQueryClient();
  const path = { params: { path: { workspace } } };
  const key = ['platforms', workspace];
  const tool = useQuery({ queryKey: key, queryFn: () => call(api.GET('/api/v1/workspaces/{workspace}/platforms', path)) });
  const [fields, setFields] = useState<Fields>(EMPTY);
  const changed = (): void => void queries.invalidateQueries({ queryKey: key });
  const add = useMutation({
    mutationFn: () => call(api.POST('/api/v1/workspaces/{workspace}/platforms', { ...path, body: fields })),
    onSuccess: (p) => {
      changed();
      setFields(EMPTY);
      toast.success(say('{name} is registered.', { name: p.name }));
    },
  });
  const remove = useMutation({
    mutationFn: (platform: string) => call(api.DELETE('/api/v1/platforms/{platform}', { params: { path: { platform } } })),
    onSuccess: changed,
    onError: (e) => toast.error(wordsOf(e)),
  });
  const [removing, setRemoving] = useState<string>();
  return (
    <Modal
      open
      wide
      onClose={onClose}
      title={say('Quizzes in courses')}
      description={say(
        'A learning platform that knows LTI 1.3 opens quizzes from its courses: learners are known by name, and their scores go to its gradebook by themselves.',
      )}
    >
      {tool.isPending && <Busy what={say('Fetching')} />}
      {tool.isError && <p className="text-brick">{wordsOf(tool.error)}</p>}
      {tool.data && (
        <>
          {tool.data.platforms.length > 0 && (
            <ul className="mb-4 border-y border-rule">
              {tool.data.platforms.map((p) => (
                <li key={p.id} className="flex items-center gap-3 border-b border-rule-2 py-2 last:border-0">
                  <span className="min-w-0 flex-1">
                    <b className="font-semibold">{p.name}</b>
                    <span className="block truncate text-[13px] text-ink-2">
                      {say('{issuer} · client {clientId} · {deployments, plural, one {one deployment} other {# deployments}}', {
                        issuer: p.issuer,
                        clientId: p.clientId,
                        deployments: p.deployments.length,
                      })}
                    </span>
                  </span>
                  {admin &&
                    (removing === p.id ? (
                      <>
                        <span className="text-[13px] text-brick">{say('Its links open nothing then.')}</span>
                        <Button look="danger" disabled={remove.isPending} onClick={() => remove.mutate(p.id)}>
                          {say('Remove it')}
                        </Button>
                      </>
                    ) : (
                      <Button look="quiet" aria-label={say('Remove {name}', { name: p.name })} onClick={() => setRemoving(p.id)}>
                        {say('Remove')}
                      </Button>
                    ))}
                </li>
              ))}
            </ul>
          )}
          <h3 className="font-semibold">{say('Register a platform')}</h3>
          <p className="mb-2 text-[13.5px] text-ink-2">
            {say('Where the platform asks for the registration address of a tool, give it this one. It leads back here.')}
          </p>
          <Address name={say('Registration address')} value={tool.data.registration} />
          <details className="mt-4">
            <summary className="cursor-pointer font-semibold">{say('By hand')}</summary>
            <p className="mt-2 text-[13.5px] text-ink-2">{say('What the platform asks for:')}</p>
            <div className="mt-1 grid gap-1.5">
              <Address name={say('Begins a launch')} value={tool.data.login} />
              <Address name={say('Takes messages')} value={tool.data.launch} />
              <Address name={say('Public keys')} value={tool.data.keys} />
            </div>
            {admin ? (
              <form
                className="mt-4 grid gap-3 sm:grid-cols-2"
                onSubmit={(e: FormEvent) => {
                  e.preventDefault();
                  add.mutate();
                }}
              >
                <p className="text-[13.5px] text-ink-2 sm:col-span-2">{say('What the platform shows then:')}</p>
                {(Object.entries(FIELDS) as [keyof Fields, string][]).map(([k, label]) => (
                  <Field key={k} label={label}>
                    {(id) => (
                      <Input
                        id={id}
                        type={k.endsWith('Url') ? 'url' : 'text'}
                        value={fields[k]}
                        required
                        maxLength={500}
                        autoComplete="off"
                        onChange={(e) => setFields({ ...fields, [k]: e.target.value })}
                      />
                    )}
                  </Field>
                ))}
                {add.isError && (
                  <p className="text-brick sm:col-span-2" role="alert">
                    {wordsOf(add.error)}
                  </p>
                )}
                <span className="sm:col-span-2">
                  <Button look="primary" type="submit" disabled={add.isPending}>
                    {say('Register')}
                  </Button>
                </span>
              </form>
            ) : (
              <p className="mt-3 text-[13.5px] text-ink-2">{say('Administrators of the workspace register platforms.')}</p>
            )}
          </details>
        </>
      )}
    </Modal>
  );
}

function Address({ name, value }: { name: string; value: string }) {
  return (
    <p className="flex items-center gap-2 text-[13.5px]">
      <span className="w-36 shrink-0 text-ink-2">{name}</span>
      <code className="min-w-0 flex-1 rounded bg-paper px-2 py-1 break-all">{value}</code>
      <Button
        aria-label={say('Copy: {name}', { name })}
        onClick={() => copyText(value, say('The address is in the clipboard.'), say('Mark the address and copy it.'))}
      >
        <Copy size={15} aria-hidden />
      </Button>
    </p>
  );
}
