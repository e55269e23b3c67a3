/** The pages of a PDF, to mark: a region becomes draft text, or a picture of a new question. */
import { type Box, draftOfRegion, type Page, readPage } from '@zakuska/documents';
import { useQuery } from '@tanstack/react-query';
import { type PointerEvent as ReactPointerEvent, useEffect, useRef, useState } from 'react';
import { wordsOf } from '../api/client.js';
import { Busy } from '../frame/Frame.js';
import { Button } from '../ui/Button.js';
import { Field, Input } from '../ui/Field.js';
import { Modal } from '../ui/Modal.js';
import { drawPage, openPdf, type Pdf, pdfOps } from '../ui/pdf.js';
import { say } from '../words/say.js';

/** What a marked region is taken as. */
export type Marked = { as: 'text'; text: string } | { as: 'picture'; src: string; alt: string };

/** A picture of a region has two dots for each point of the page. */
const PICTURE_SCALE = 2;

async function openFile(source: string): Promise<Pdf> {
  const answer = await fetch(`/api/v1/sources/${source}/file`);
  if (!answer.ok) throw new Error(say('The file could not be fetched. Try again.'));
  return openPdf(new Uint8Array(await answer.arrayBuffer()));
}

export default function PdfPages({ source, name, mayEdit, onMark }: { source: string; name: string; mayEdit: boolean; onMark: (m: Marked) => void }) {
  const pdf = useQuery({ queryKey: ['pdf', source], queryFn: () => openFile(source), staleTime: Number.POSITIVE_INFINITY, gcTime: 60_000 });
  const box = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(0);
  useEffect(() => {
    const el = box.current;
    if (!el) return;
    const watch = new ResizeObserver(() => setWidth(Math.max(200, el.clientWidth - 24)));
    watch.observe(el);
    return () => watch.disconnect();
  }, []);
  return (
    <div ref={box} className="min-h-0 flex-1 overflow-auto bg-paper p-3" tabIndex={0} role="region" aria-label={say('Pages of {name}', { name })}>
      {pdf.isPending && <Busy what={say('Opening the pages')} />}
      {pdf.isError && (
        <p role="alert" className="note error">
          {wordsOf(pdf.error)}
        </p>
      )}
      {pdf.data && mayEdit && (
        <p className="mb-2 text-[13.5px] text-ink-2">{say('Draw a box around a question: its text goes into the draft, or the box as a picture.')}</p>
      )}
      {pdf.data &&
        width > 0 &&
        Array.from({ length: pdf.data.numPages }, (_, i) => <PageView key={i} pdf={pdf.data} number={i + 1} width={width} mayEdit={mayEdit} onMark={onMark} />)}
    </div>
  );
}

interface Region {
  x: number;
  y: number;
  w: number;
  h: number;
}

function PageView({ pdf, number, width, mayEdit, onMark }: { pdf: Pdf; number: number; width: number; mayEdit: boolean; onMark: (m: Marked) => void }) {
  const frame = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const [near, setNear] = useState(number <= 2);
  const [size, setSize] = useState<{ width: number; height: number } | null>(null);
  const [page, setPage] = useState<Page | null>(null);
  const [region, setRegion] = useState<Region | null>(null);
  const [drawing, setDrawing] = useState<{ x: number; y: number } | null>(null);
  const [naming, setNaming] = useState<string | null>(null);
  useEffect(() => {
    const el = frame.current;
    if (!el) return;
    const watch = new IntersectionObserver((seen) => seen.some((s) => s.isIntersecting) && setNear(true), { rootMargin: '600px' });
    watch.observe(el);
    return () => watch.disconnect();
  }, []);
  useEffect(() => {
    if (!near) return;
    let stop: (() => void) | undefined;
    let current = true;
    void (async () => {
      const p = await pdf.getPage(number);
      const plain = p.getViewport({ scale: 1 });
      const scale = width / plain.width;
      const dots = Math.min(2, devicePixelRatio || 1);
      const c = canvas.current;
      if (!current || !c) return;
      setSize({ width: plain.width, height: plain.height });
      const task = drawPage(p, c, scale * dots);
      stop = () => task.cancel();
      await task.promise.catch(() => undefined);
      if (current) setPage(await readPage(p, pdfOps));
    })();
    return () => {
      current = false;
      stop?.();
    };
  }, [near, pdf, number, width]);

  const scale = size ? width / size.width : 1;
  const at = (e: ReactPointerEvent): { x: number; y: number } => {
    const r = frame.current?.getBoundingClientRect();
    return { x: Math.max(0, Math.min(width, e.clientX - (r?.left ?? 0))), y: Math.max(0, e.clientY - (r?.top ?? 0)) };
  };
  const boxOf = (r: Region): Box => ({ left: r.x / scale, top: r.y / scale, right: (r.x + r.w) / scale, bottom: (r.y + r.h) / scale });
  const whole = (): Region => ({ x: 0, y: 0, w: width, h: (size?.height ?? 0) * scale });
  const text = region && page ? draftOfRegion(page, boxOf(region)) : '';
  const picture = async (r: Region): Promise<string> => {
    const p = await pdf.getPage(number);
    const c = document.createElement('canvas');
    await drawPage(p, c, PICTURE_SCALE).promise;
    const b = boxOf(r);
    const out = document.createElement('canvas');
    out.width = Math.max(1, Math.round((b.right - b.left) * PICTURE_SCALE));
    out.height = Math.max(1, Math.round((b.bottom - b.top) * PICTURE_SCALE));
    out.getContext('2d')?.drawImage(c, b.left * PICTURE_SCALE, b.top * PICTURE_SCALE, out.width, out.height, 0, 0, out.width, out.height);
    return out.toDataURL('image/png');
  };
  const takeText = (): void => {
    onMark({ as: 'text', text });
    setRegion(null);
  };
  return (
    <figure className="mb-4">
      <div
        ref={frame}
        className={`relative border border-rule bg-white ${mayEdit ? 'cursor-crosshair touch-none select-none' : ''}`}
        style={{ width, height: size ? size.height * scale : width * 1.35 }}
        data-page={number}
        {...(mayEdit && {
          onPointerDown: (e: ReactPointerEvent<HTMLDivElement>) => {
            if (e.button !== 0 || (e.target as HTMLElement).closest('button')) return;
            e.currentTarget.setPointerCapture(e.pointerId);
            setDrawing(at(e));
            setRegion(null);
          },
          onPointerMove: (e: ReactPointerEvent) => {
            if (!drawing) return;
            const p = at(e);
            setRegion({ x: Math.min(p.x, drawing.x), y: Math.min(p.y, drawing.y), w: Math.abs(p.x - drawing.x), h: Math.abs(p.y - drawing.y) });
          },
          onPointerUp: () => {
            setDrawing(null);
            if (region && (region.w < 8 || region.h < 6)) setRegion(null);
          },
        })}
      >
        <canvas ref={canvas} className="block h-full w-full" aria-hidden />
        {region && (
          <div
            className="pointer-events-none absolute border-2 border-[#8c1b4b] bg-[#8c1b4b1f]"
            style={{ left: region.x, top: region.y, width: region.w, height: region.h }}
          />
        )}
        {region && !drawing && (
          <div
            role="group"
            aria-label={say('The marked region')}
            className="absolute z-10 flex flex-wrap gap-2 rounded-md border border-rule bg-sheet p-1.5"
            style={{ left: Math.max(0, Math.min(region.x, width - 330)), top: region.y + region.h + 6 }}
          >
            <Button look="primary" disabled={!text} onClick={takeText}>
              {text ? say('Put its text into the draft') : page ? say('No text here') : say('Reading …')}
            </Button>
            <Button onClick={() => setNaming('')}>{say('Take it as a picture')}</Button>
            <Button look="quiet" onClick={() => setRegion(null)}>
              {say('Cancel')}
            </Button>
          </div>
        )}
      </div>
      <figcaption className="flex items-center gap-3 py-0.5 text-[13px] text-ink-2">
        {say('Page {number}{more}', { number, more: page && !page.glyphs.some((g) => /[\p{L}\p{N}]/u.test(g.text)) && say(': a picture without text') })}
        {mayEdit && size && (
          <Button look="quiet" onClick={() => setRegion(whole())}>
            {say('Mark the whole page')}
          </Button>
        )}
      </figcaption>
      <Modal open={naming !== null} onClose={() => setNaming(null)} title={say('The picture in words')}>
        <form
          className="grid gap-3"
          onSubmit={(e) => {
            e.preventDefault();
            if (!region) return;
            void picture(region).then((src) => {
              onMark({ as: 'picture', src, alt: naming?.trim() ?? '' });
              setNaming(null);
              setRegion(null);
            });
          }}
        >
          <Field label={say('What does it show?')} hint={say('For people who cannot see it. It is read aloud, and must not give the answer away.')}>
            {(id) => <Input id={id} autoFocus maxLength={400} value={naming ?? ''} onChange={(e) => setNaming(e.target.value)} />}
          </Field>
          <div className="flex justify-end gap-2">
            <Button onClick={() => setNaming(null)}>{say('Cancel')}</Button>
            <Button type="submit" look="primary">
              {say('Take the picture')}
            </Button>
          </div>
        </form>
      </Modal>
    </figure>
  );
}
