/** What the editor knows beyond bold and lists: formulas, gaps, pictures, tables, raised and lowered signs, other languages. */
import { Mark, mergeAttributes, Node } from '@tiptap/core';
import Image from '@tiptap/extension-image';
import Subscript from '@tiptap/extension-subscript';
import Superscript from '@tiptap/extension-superscript';
import { Table, TableCell, TableHeader, TableRow } from '@tiptap/extension-table';
import { NodeViewWrapper, type NodeViewProps, ReactNodeViewRenderer } from '@tiptap/react';
import StarterKit from '@tiptap/starter-kit';
import { createContext, useContext } from 'react';
import { useFormulas } from '../ui/formulas.js';
import { say } from '../words/say.js';

/** What nodes of the editor ask of the page around it. */
export interface EditorPage {
  /** Opens a formula for editing; `done` gets the new one, or null where it goes. */
  editFormula: (tex: string, display: boolean, done: (formula: { tex: string; display: boolean } | null) => void) => void;
  /** What stands in a gap, in short. */
  gapText: (id: string) => string;
}
export const EditorPageContext = createContext<EditorPage>({ editFormula: () => undefined, gapText: () => '' });

function FormulaView({ node, selected, updateAttributes, deleteNode }: NodeViewProps) {
  const { editFormula } = useContext(EditorPageContext);
  const { tex, display } = node.attrs as { tex: string; display: boolean };
  const html = useFormulas(`\\(${tex}\\)`);
  const edit = (): void => editFormula(tex, display, (f) => (f ? updateAttributes(f) : deleteNode()));
  return (
    <NodeViewWrapper as="span" className={`${display ? 'block text-center' : 'inline-block'} rounded px-0.5 ${selected ? 'outline-2 outline-beet' : ''}`}>
      <button
        type="button"
        tabIndex={-1}
        aria-label={say('Formula {tex}', { tex })}
        title={say('Change the formula')}
        className="cursor-pointer rounded hover:bg-beet-soft"
        onClick={edit}
      >
        {html ? <span dangerouslySetInnerHTML={{ __html: html }} /> : <code>{tex || say('formula')}</code>}
      </button>
    </NodeViewWrapper>
  );
}

const Formula = Node.create({
  name: 'formula',
  group: 'inline',
  inline: true,
  atom: true,
  addAttributes: () => ({
    tex: {
      default: '',
      parseHTML: (e: HTMLElement) => e.getAttribute('data-tex') ?? '',
      renderHTML: (a: Record<string, unknown>) => ({ 'data-tex': a['tex'] }),
    },
    display: {
      default: false,
      parseHTML: (e: HTMLElement) => e.hasAttribute('data-display'),
      renderHTML: (a: Record<string, unknown>) => (a['display'] ? { 'data-display': '' } : {}),
    },
  }),
  parseHTML: () => [{ tag: 'span[data-tex]' }],
  renderHTML: ({ HTMLAttributes }) => ['span', mergeAttributes(HTMLAttributes)],
  addNodeView: () => ReactNodeViewRenderer(FormulaView),
});

function GapView({ node, selected }: NodeViewProps) {
  const { gapText } = useContext(EditorPageContext);
  const { id } = node.attrs as { id: string };
  return (
    <NodeViewWrapper as="span" className={`gap gap-key mx-0.5 ${selected ? 'outline-2 outline-beet' : ''}`} title={say('Gap {id}', { id })}>
      <small className="mr-1 font-normal text-ink-2">{id}</small>
      {gapText(id) || '…'}
    </NodeViewWrapper>
  );
}
const Gap = Node.create({
  name: 'gap',
  group: 'inline',
  inline: true,
  atom: true,
  addAttributes: () => ({
    id: { default: '', parseHTML: (e: HTMLElement) => e.getAttribute('data-gap') ?? '', renderHTML: (a: Record<string, unknown>) => ({ 'data-gap': a['id'] }) },
  }),
  parseHTML: () => [{ tag: 'span[data-gap]' }],
  renderHTML: ({ HTMLAttributes }) => ['span', mergeAttributes(HTMLAttributes)],
  addNodeView: () => ReactNodeViewRenderer(GapView),
});

/** Words in another language or direction. */
const Foreign = Mark.create({
  name: 'foreign',
  addAttributes: () => ({ lang: { default: null }, dir: { default: null } }),
  parseHTML: () => [{ tag: 'span[lang]' }, { tag: 'span[dir]' }],
  renderHTML: ({ HTMLAttributes }) => ['span', mergeAttributes(HTMLAttributes), 0],
});

export const extensions = [
  StarterKit.configure({ heading: false, horizontalRule: false, strike: false, trailingNode: false, link: { openOnClick: false, autolink: false } }),
  Subscript,
  Superscript,
  Table.configure({ resizable: false }),
  TableRow,
  TableHeader,
  TableCell,
  Image.configure({
    inline: true,
    allowBase64: true,
    resize: { enabled: true, alwaysPreserveAspectRatio: true, minWidth: 40, minHeight: 20, directions: ['bottom-right'] },
  }),
  Formula,
  Gap,
  Foreign,
];
