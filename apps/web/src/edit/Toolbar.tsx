/** The tools of the text that has the caret: one bar for all texts of an item. */
import type { Editor } from '@tiptap/core';
import { useEditorState } from '@tiptap/react';
import { Bold, Code, CodeXml, ImagePlus, Italic, List, ListOrdered, Sigma, Subscript, Superscript, Table, Underline, Ellipsis } from 'lucide-react';
import { type ReactNode, useRef, useState } from 'react';
import { Button } from '../ui/Button.js';
import { Input } from '../ui/Field.js';
import { CropDialog } from './CropDialog.js';
import { insertPictures } from './RichEditor.js';
import { say } from '../words/say.js';

const Tool = ({
  name,
  on = false,
  disabled = false,
  onUse,
  children,
}: {
  name: string;
  on?: boolean;
  disabled?: boolean;
  onUse: () => void;
  children: ReactNode;
}) => (
  <button
    type="button"
    aria-label={name}
    title={name}
    aria-pressed={on}
    disabled={disabled}
    // the caret stays where it is
    onMouseDown={(e) => e.preventDefault()}
    onClick={onUse}
    className={`grid size-8 flex-none cursor-pointer place-items-center rounded disabled:opacity-35 ${on ? 'bg-beet-soft text-beet' : 'text-ink-2 hover:bg-beet-soft hover:text-beet'}`}
  >
    {children}
  </button>
);

interface Picture {
  src: string;
  alt: string;
  width: number | null;
}

/** Changes the picture at hand and keeps it at hand: a node that is written anew would lose the selection. */
const changePicture = (e: Editor, attributes: Partial<Picture> & { height?: null }): void => {
  const at = e.state.selection.from;
  e.chain().updateAttributes('image', attributes).setNodeSelection(at).run();
};

export function Toolbar({
  editor,
  onFormula,
  onGap,
}: {
  editor: Editor | null;
  onFormula: (e: Editor) => void /** Makes a gap of the words that are marked. */;
  onGap: ((e: Editor) => void) | null;
}) {
  const files = useRef<HTMLInputElement>(null);
  const [cropping, setCropping] = useState<string | null>(null);
  const is = useEditorState({
    editor,
    selector: ({ editor: e }) =>
      e && {
        bold: e.isActive('bold'),
        italic: e.isActive('italic'),
        underline: e.isActive('underline'),
        sub: e.isActive('subscript'),
        sup: e.isActive('superscript'),
        code: e.isActive('code'),
        block: e.isActive('codeBlock'),
        bullets: e.isActive('bulletList'),
        numbers: e.isActive('orderedList'),
        table: e.isActive('table'),
        picture: e.isActive('image') ? (e.getAttributes('image') as Picture) : null,
        marked: !e.state.selection.empty,
      },
  });
  const run = (f: (e: Editor) => void) => () => void (editor && f(editor));
  const off = !editor;
  return (
    <div className="sticky top-0 z-10 -mx-3 -mt-3 mb-1 grid gap-1 rounded-t-md border-b border-rule bg-paper px-2 py-1">
      <div role="toolbar" aria-label={say('Text')} className="flex flex-wrap items-center gap-0.5">
        <Tool name={say('Bold (Ctrl B)')} on={is?.bold ?? false} disabled={off} onUse={run((e) => e.chain().focus().toggleBold().run())}>
          <Bold size={16} aria-hidden />
        </Tool>
        <Tool name={say('Italic (Ctrl I)')} on={is?.italic ?? false} disabled={off} onUse={run((e) => e.chain().focus().toggleItalic().run())}>
          <Italic size={16} aria-hidden />
        </Tool>
        <Tool name={say('Underline (Ctrl U)')} on={is?.underline ?? false} disabled={off} onUse={run((e) => e.chain().focus().toggleUnderline().run())}>
          <Underline size={16} aria-hidden />
        </Tool>
        <Tool name={say('Subscript')} on={is?.sub ?? false} disabled={off} onUse={run((e) => e.chain().focus().unsetSuperscript().toggleSubscript().run())}>
          <Subscript size={16} aria-hidden />
        </Tool>
        <Tool name={say('Superscript')} on={is?.sup ?? false} disabled={off} onUse={run((e) => e.chain().focus().unsetSubscript().toggleSuperscript().run())}>
          <Superscript size={16} aria-hidden />
        </Tool>
        <Tool name={say('Code')} on={is?.code ?? false} disabled={off} onUse={run((e) => e.chain().focus().toggleCode().run())}>
          <Code size={16} aria-hidden />
        </Tool>
        <Tool name={say('Lines of code')} on={is?.block ?? false} disabled={off} onUse={run((e) => e.chain().focus().toggleCodeBlock().run())}>
          <CodeXml size={16} aria-hidden />
        </Tool>
        <Tool name={say('List')} on={is?.bullets ?? false} disabled={off} onUse={run((e) => e.chain().focus().toggleBulletList().run())}>
          <List size={16} aria-hidden />
        </Tool>
        <Tool name={say('Numbered list')} on={is?.numbers ?? false} disabled={off} onUse={run((e) => e.chain().focus().toggleOrderedList().run())}>
          <ListOrdered size={16} aria-hidden />
        </Tool>
        <Tool
          name={say('Table')}
          disabled={off || (is?.table ?? false)}
          onUse={run((e) => e.chain().focus().insertTable({ rows: 3, cols: 3, withHeaderRow: true }).run())}
        >
          <Table size={16} aria-hidden />
        </Tool>
        <Tool name={say('Picture')} disabled={off} onUse={() => files.current?.click()}>
          <ImagePlus size={16} aria-hidden />
        </Tool>
        <Tool name={say('Formula')} disabled={off} onUse={run(onFormula)}>
          <Sigma size={16} aria-hidden />
        </Tool>
        {onGap && (
          <Button look="quiet" disabled={off || !is?.marked} onMouseDown={(e) => e.preventDefault()} onClick={run(onGap)}>
            <Ellipsis size={15} aria-hidden /> {say('Make a gap of the marked words')}
          </Button>
        )}
        <input
          ref={files}
          type="file"
          accept="image/png,image/jpeg,image/gif,image/webp"
          multiple
          className="hidden"
          tabIndex={-1}
          aria-label={say('Picture files')}
          onChange={(e) => {
            if (editor) void insertPictures(editor, [...(e.target.files ?? [])]);
            e.target.value = '';
          }}
        />
      </div>
      {is?.table && (
        <div role="toolbar" aria-label={say('Table')} className="flex flex-wrap gap-1">
          {(
            [
              [say('Add a row below'), (e) => e.chain().focus().addRowAfter().run()],
              [say('Add a column to the right'), (e) => e.chain().focus().addColumnAfter().run()],
              [say('Delete the row'), (e) => e.chain().focus().deleteRow().run()],
              [say('Delete the column'), (e) => e.chain().focus().deleteColumn().run()],
              [say('Heading row'), (e) => e.chain().focus().toggleHeaderRow().run()],
              [say('Merge or split cells'), (e) => e.chain().focus().mergeOrSplit().run()],
              [say('Delete the table'), (e) => e.chain().focus().deleteTable().run()],
            ] as [string, (e: Editor) => void][]
          ).map(([name, f]) => (
            <Button key={name} look="quiet" onMouseDown={(e) => e.preventDefault()} onClick={run(f)}>
              {name}
            </Button>
          ))}
        </div>
      )}
      {is?.picture && (
        <div role="group" aria-label={say('Picture')} className="flex flex-wrap items-center gap-2 text-[13.5px]">
          <label className="flex min-w-60 flex-1 items-center gap-1.5">
            {say('What it shows')}
            <Input
              key={is.picture.src.slice(-40)}
              defaultValue={is.picture.alt}
              placeholder={say('for who cannot see it')}
              onBlur={(e) => editor && changePicture(editor, { alt: e.target.value.replace(/\s+/g, ' ').trim() })}
            />
          </label>
          <label className="flex items-center gap-1.5">
            {say('Width')}
            <input
              type="range"
              min={60}
              max={900}
              step={20}
              className="w-32 accent-beet"
              value={is.picture.width ?? 480}
              onChange={(e) => editor && changePicture(editor, { width: Number(e.target.value), height: null })}
            />
            <span className="w-16 text-ink-2 tabular-nums">
              {is.picture.width ? say('{round} px', { round: Math.round(is.picture.width) }) : say('its own')}
            </span>
          </label>
          {is.picture.width && (
            <Button look="quiet" onClick={run((e) => changePicture(e, { width: null, height: null }))}>
              {say('Own size')}
            </Button>
          )}
          <Button onClick={() => setCropping(is.picture?.src ?? null)}>{say('Crop …')}</Button>
          <Button look="danger" onClick={run((e) => e.chain().focus().deleteSelection().run())}>
            {say('Take it out')}
          </Button>
        </div>
      )}
      {cropping && (
        <CropDialog
          src={cropping}
          onClose={() => setCropping(null)}
          onDone={(src) => {
            if (editor) changePicture(editor, { src, width: null, height: null });
            setCropping(null);
          }}
        />
      )}
    </div>
  );
}
