/** The pages of a paper as they will be printed, with the few choices beside them. Set anew after each choice. */
import type { PaperLook, QuizSet, SheetPerson } from '@zakuska/core';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef } from 'react';
import { wordsOf } from '../api/client.js';
import { Busy } from '../frame/Frame.js';
import { Button } from '../ui/Button.js';
import { Field, Select } from '../ui/Field.js';
import { Modal } from '../ui/Modal.js';
import { drawPage, openPdf, type Pdf } from '../ui/pdf.js';
import { saveFile } from '../ui/saveFile.js';
import { LookFields } from './LookFields.js';
import { hasLook, printed } from './printed.js';
import { say } from '../words/say.js';

/** Dots for each point of a page. */
const SCALE = 1.5;

interface Props {
  set: QuizSet;
  form: string;
  /** The forms that can be looked at. */
  forms: readonly { format: string; name: string }[];
  onForm: (form: string) => void;
  look: PaperLook;
  onLook: (look: PaperLook) => void;
  /** For each of whom an answer sheet is made. */
  people: readonly SheetPerson[];
  onClose: () => void;
}
export default function PagesDialog({ set, form, forms, onForm, look, onLook, people, onClose }: Props) {
  const made = useQuery({
    queryKey: ['pages', form, look, set, people],
    queryFn: async () => {
      const file = await printed(set, form, look, people);
      return { file, pdf: await openPdf(file.bytes.slice()) };
    },
    placeholderData: (before) => before,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 30_000,
  });
  const pages = made.data?.pdf.numPages ?? 0;
  return (
    <Modal open full onClose={onClose} title={say('The pages as they will be printed')}>
      <div className="grid h-full min-h-0 grid-cols-1 gap-5 lg:grid-cols-[240px_minmax(0,1fr)]">
        <div className="grid content-start gap-4">
          <Field label={say('Paper')}>
            {(id) => (
              <Select id={id} value={form} onChange={(e) => onForm(e.target.value)}>
                {forms.map((f) => (
                  <option key={f.format} value={f.format}>
                    {f.name.replace(/^PDF, /, '')}
                  </option>
                ))}
              </Select>
            )}
          </Field>
          {hasLook(form) && <LookFields look={look} onLook={onLook} />}
          <p className="text-sm text-ink-2" role="status">
            {made.isFetching ? say('Setting the pages …') : pages > 0 && say('{pages, plural, one {It fits one page.} other {It fits # pages.}}', { pages })}
          </p>
          {made.data && !made.isFetching && (
            <Button look="primary" onClick={() => saveFile(made.data.file.bytes, made.data.file.name, made.data.file.mediaType)}>
              {say('Download it')}
            </Button>
          )}
        </div>
        <div className="min-h-0 overflow-auto rounded border border-rule bg-paper p-4" tabIndex={0} role="region" aria-label={say('Pages')}>
          {made.isError && (
            <p role="alert" className="text-brick">
              {wordsOf(made.error)}
            </p>
          )}
          {!made.data && made.isFetching && <Busy what={say('Setting the pages')} />}
          {made.data && Array.from({ length: pages }, (_, i) => <PageView key={`${made.dataUpdatedAt} ${i}`} pdf={made.data.pdf} number={i + 1} of={pages} />)}
        </div>
      </div>
    </Modal>
  );
}

function PageView({ pdf, number, of }: { pdf: Pdf; number: number; of: number }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    let stop: (() => void) | undefined;
    let current = true;
    void (async () => {
      const page = await pdf.getPage(number);
      const c = canvas.current;
      if (!current || !c) return;
      const task = drawPage(page, c, SCALE);
      stop = () => task.cancel();
      await task.promise.catch(() => undefined);
    })();
    return () => {
      current = false;
      stop?.();
    };
  }, [pdf, number]);
  return (
    <canvas
      ref={canvas}
      role="img"
      aria-label={say('Page {number} of {of}', { number, of })}
      className="mx-auto mb-4 block w-full max-w-[800px] border border-rule bg-[#fff]"
    />
  );
}
