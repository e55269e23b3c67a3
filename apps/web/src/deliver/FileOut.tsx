/** A file of the set: written, rehearsed on what was written, then saved. */
import { type Deck, type Destination, type Fit, isPrinted, type QuizSet, usualLook } from '@zakuska/core';
import { Download, Eye, Presentation } from 'lucide-react';
import { lazy, type ReactNode, Suspense, useState } from 'react';
import { toast } from 'sonner';
import { api } from '../api/client.js';
import { useOpenSet } from '../set/context.js';
import { Button } from '../ui/Button.js';
import { Field, Select } from '../ui/Field.js';
import { saveFile } from '../ui/saveFile.js';
import type { KeptTemplate, Made } from './deliver.worker.js';
import { DeliverySummary } from './DeliverySummary.js';
import { LookFields } from './LookFields.js';
import { ReadBackView } from './ReadBackView.js';
import { ForWhom, useSheetPeople } from './ForWhom.js';
import { hasLook, hasPages, isSheet, printed } from './printed.js';
import { RehearsalView } from './RehearsalView.js';
import { deliverer } from './useFits.js';
import { say } from '../words/say.js';

// what shows pages is large, and seldom needed
const PagesDialog = lazy(() => import('./PagesDialog.js'));
const SlideShow = lazy(() => import('../show/SlideShow.js'));

const USES: Readonly<Record<string, string>> = {
  paper: say('To print, or for services that take documents.'),
  slides: say('To talk over in a room: each question, then its key in the same place, then what is said to it.'),
};

export function FileOut({
  set,
  fits,
  to,
  form,
  onForm,
  template,
  children,
}: {
  set: QuizSet;
  fits: readonly Fit[] | null;
  to: Destination;
  form: string;
  onForm: (id: string) => void;
  /** A kept template that is filled in place of a form of ours. */
  template?: KeptTemplate | undefined;
  children?: ReactNode;
}) {
  const { view } = useOpenSet();
  const [made, setMade] = useState<(Omit<Made, 'bytes' | 'mediaType'> & { of: QuizSet; form: string }) | null>(null);
  const [busy, setBusy] = useState(false);
  const [look, setLook] = useState(usualLook);
  const [pages, setPages] = useState(false);
  const [shown, setShown] = useState<Deck | null>(null);
  const [classId, setClassId] = useState('');
  const people = useSheetPeople(classId);
  const printable = to.forms.filter((f) => hasPages(f.format));
  const name = to.forms.find((f) => f.format === form)?.name ?? to.name;
  const nothing = fits?.every((f) => !f.items.length) ?? false;
  const download = async (): Promise<void> => {
    setBusy(true);
    try {
      const {
        bytes,
        name: file,
        mediaType,
        ...seen
      } = isPrinted(form)
        ? await printed(set, form, look, people)
        : await deliverer.call((remote) => (template ? remote.fill(set, template) : remote.make(set, form)));
      saveFile(bytes, file, mediaType);
      // that it was taken stands in the log; the file is there whether that arrives or not
      void api.POST('/api/v1/sets/{set}/files', { params: { path: { set: view.id } }, body: { name: file } }).catch(() => undefined);
      setMade({ name: file, ...seen, of: set, form });
      if (seen.rehearsal?.ok ?? !seen.readBack?.differences.length) toast.success(say('{file} was written.', { file }));
      else
        toast.warning(
          say('{file} was written, and {what} found something to look at.', { file, what: seen.rehearsal ? say('its rehearsal') : say('reading it again') }),
        );
    } catch (e) {
      toast.error(say('The file could not be written: {message}', { message: (e as Error).message }));
    } finally {
      setBusy(false);
    }
  };
  const show = (): Promise<void> =>
    deliverer
      .call((remote) => remote.slides(set))
      .then(setShown, (e: unknown) => void toast.error(say('The slides could not be made: {message}', { message: (e as Error).message })));
  return (
    <>
      <p className="text-ink-2">
        {template
          ? say("The service's own template, {fileName}, with the items in place of its examples.", { fileName: template.fileName })
          : (USES[to.id] ?? say('A file to import where you need it.'))}
      </p>
      {to.forms.length > 1 && (
        <div className="mt-2">
          <Field label={say('Form')}>
            {(id) => (
              <Select id={id} value={form} onChange={(e) => onForm(e.target.value)}>
                {to.forms.map((f) => (
                  <option key={f.format} value={f.format}>
                    {f.name}
                  </option>
                ))}
              </Select>
            )}
          </Field>
        </div>
      )}
      {hasLook(form) && (
        <div className="mt-3">
          <LookFields look={look} onLook={setLook} />
        </div>
      )}
      {isSheet(form) && (
        <div className="mt-3">
          <ForWhom classId={classId} onClass={setClassId} />
        </div>
      )}
      <DeliverySummary set={set} fits={fits} />
      {hasPages(form) && (
        <Button className="mb-2" disabled={nothing || !people} onClick={() => setPages(true)}>
          <Eye size={16} aria-hidden /> {say('Look at the pages')}
        </Button>
      )}
      {pages && people && (
        <Suspense fallback={null}>
          <PagesDialog set={set} form={form} forms={printable} onForm={onForm} look={look} onLook={setLook} people={people} onClose={() => setPages(false)} />
        </Suspense>
      )}
      {form === 'pptx' && (
        <Button className="mb-2" disabled={nothing} onClick={() => void show()}>
          <Presentation size={16} aria-hidden /> {say('Show them here, full screen')}
        </Button>
      )}
      {shown && (
        <Suspense fallback={null}>
          <SlideShow deck={shown} title={set.title} onClose={() => setShown(null)} />
        </Suspense>
      )}
      <Button look="primary" disabled={busy || nothing || !people} onClick={() => void download()}>
        <Download size={16} className="shrink-0" aria-hidden />
        <span className="whitespace-normal text-left">
          {busy ? say('Writing and reading again …') : template ? say('Download it filled') : say('Download {name}', { name })}
        </span>
      </Button>
      {nothing && <p className="mt-2 text-[13.5px] text-brick">{say('No item can go there.')}</p>}
      {children}
      {made && made.form === form && (
        <section className="mt-4 border-t border-rule pt-3">
          <h3 className="font-semibold break-all">{made.name}</h3>
          {made.of !== set && <p className="text-[13.5px] text-amber">{say('The set has changed since; download it again.')}</p>}
          {made.rehearsal && <RehearsalView rehearsal={made.rehearsal} of={say('the file')} />}
          {made.readBack && <ReadBackView back={made.readBack} />}
        </section>
      )}
    </>
  );
}
