/** Codes of a device beside the password: turned on with a picture to scan, spare codes, turned off. */
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { api, call, type Schemas, wordsOf } from '../api/client.js';
import { Button } from '../ui/Button.js';
import { copyText } from '../ui/copyText.js';
import { Field, Input } from '../ui/Field.js';
import { Modal } from '../ui/Modal.js';
import { PasswordField } from '../signin/PasswordField.js';
import { say } from '../words/say.js';

type Step = { at: 'password'; for: 'on' | 'off' } | { at: 'device'; device: Schemas['DeviceView'] } | { at: 'spare'; codes: string[] };

export function SecondFactor({ account }: { account: Schemas['AccountView'] }) {
  const [step, setStep] = useState<Step>();
  const queries = useQueryClient();
  const close = (): void => {
    setStep(undefined);
    void queries.invalidateQueries({ queryKey: ['account'] });
  };
  return (
    <section aria-label={say('Codes beside the password')} className="grid gap-2">
      <h2 className="text-lg font-bold">{say('Codes beside the password')}</h2>
      <p className="max-w-prose text-ink-2">
        {account.secondFactor
          ? say('Signing in asks for a code of your device. {spareCodes, plural, one {# spare code} other {# spare codes}} left for the day that it is lost.', {
              spareCodes: account.spareCodes,
            })
          : say(
              'With a code of your phone asked for beside it, a password that somebody has learned opens nothing. Any app that shows codes by time (TOTP) will do.',
            )}
      </p>
      <Button className="justify-self-start" onClick={() => setStep({ at: 'password', for: account.secondFactor ? 'off' : 'on' })}>
        {account.secondFactor ? say('Ask for no codes any more …') : say('Ask for codes …')}
      </Button>
      {step?.at === 'password' && <AskPassword turns={step.for} onDevice={(device) => setStep({ at: 'device', device })} onClose={close} />}
      {step?.at === 'device' && <Device device={step.device} onCodes={(codes) => setStep({ at: 'spare', codes })} onClose={close} />}
      {step?.at === 'spare' && (
        <Modal
          open
          onClose={close}
          title={say('Spare codes')}
          description={say('Each is good once, for the day that the device is lost. They are shown this once: print or keep them.')}
        >
          <ol className="grid grid-cols-2 gap-1 font-mono" aria-label={say('Spare codes')}>
            {step.codes.map((c) => (
              <li key={c}>{c}</li>
            ))}
          </ol>
          <div className="mt-3 flex gap-2">
            <Button look="primary" onClick={close}>
              {say('I have them')}
            </Button>
            <Button onClick={() => copyText(step.codes.join('\n'), say('The spare codes are copied.'))}>{say('Copy')}</Button>
          </div>
        </Modal>
      )}
    </section>
  );
}

function AskPassword({ turns, onDevice, onClose }: { turns: 'on' | 'off'; onDevice: (d: Schemas['DeviceView']) => void; onClose: () => void }) {
  const [password, setPassword] = useState('');
  const go = useMutation({
    mutationFn: async () => {
      if (turns === 'on') return call(api.POST('/api/v1/account/second-factor', { body: { password } }));
      await call(api.POST('/api/v1/account/second-factor/end', { body: { password } }));
      return null;
    },
    onSuccess: (device) => (device ? onDevice(device) : onClose()),
  });
  return (
    <Modal open onClose={onClose} title={turns === 'on' ? say('Ask for codes when I sign in') : say('Ask for no codes any more')}>
      <form
        className="grid gap-3"
        onSubmit={(e: FormEvent) => {
          e.preventDefault();
          go.mutate();
        }}
      >
        <PasswordField autoFocus error={go.isError ? wordsOf(go.error) : undefined} value={password} onChange={setPassword} />
        <div className="flex gap-2">
          <Button type="submit" look="primary" disabled={go.isPending || !password}>
            {turns === 'on' ? say('Go on') : say('Turn them off')}
          </Button>
          <Button onClick={onClose}>{say('Cancel')}</Button>
        </div>
      </form>
    </Modal>
  );
}

function Device({ device, onCodes, onClose }: { device: Schemas['DeviceView']; onCodes: (codes: string[]) => void; onClose: () => void }) {
  const [code, setCode] = useState('');
  const confirm = useMutation({
    mutationFn: () => call(api.PUT('/api/v1/account/second-factor', { body: { code } })),
    onSuccess: ({ codes }) => onCodes(codes),
  });
  return (
    <Modal
      open
      onClose={onClose}
      title={say('Your device')}
      description={say('Scan the picture with the app of your device, or type the secret. Then type the code that it shows.')}
    >
      <form
        className="grid gap-3"
        onSubmit={(e: FormEvent) => {
          e.preventDefault();
          confirm.mutate();
        }}
      >
        <img className="size-44 bg-white" alt={say('The secret as a QR code')} src={`data:image/svg+xml;utf8,${encodeURIComponent(device.picture)}`} />
        <p className="font-mono text-[13px] break-all">{device.secret.replace(/(.{4})/g, '$1 ')}</p>
        <Field label={say('Code')} error={confirm.isError ? wordsOf(confirm.error) : undefined}>
          {(id, note) => (
            <Input
              id={id}
              inputMode="numeric"
              autoComplete="one-time-code"
              className="w-40!"
              required
              maxLength={20}
              aria-describedby={note}
              value={code}
              onChange={(e) => setCode(e.target.value)}
            />
          )}
        </Field>
        <div className="flex gap-2">
          <Button type="submit" look="primary" disabled={confirm.isPending || !code}>
            {say('Ask for codes from now on')}
          </Button>
          <Button onClick={onClose}>{say('Cancel')}</Button>
        </div>
      </form>
    </Modal>
  );
}
