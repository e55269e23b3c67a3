/** Blocks of a slide, as they stand on paper and in files of slides too. */
import type { Asset, PaperBlock, PaperRun } from '@zakuska/core';
import type { ReactNode } from 'react';
import { Rich } from '../ui/Rich.js';
import { say } from '../words/say.js';

type Assets = Readonly<Record<string, Asset>>;

function Run({ run, assets }: { run: PaperRun; assets: Assets }): ReactNode {
  switch (run.is) {
    case 'text': {
      let words: ReactNode = run.text;
      if (run.code) words = <code>{words}</code>;
      if (run.sub) words = <sub>{words}</sub>;
      if (run.sup) words = <sup>{words}</sup>;
      if (run.underline) words = <u>{words}</u>;
      if (run.italic) words = <em>{words}</em>;
      if (run.bold) words = <strong>{words}</strong>;
      return words;
    }
    case 'formula':
      return <Rich text={run.display ? `\\[${run.tex}\\]` : `\\(${run.tex}\\)`} className={run.display ? '' : 'inline'} />;
    case 'picture': {
      const asset = assets[run.asset];
      return asset ? <img src={`data:${asset.mediaType};base64,${asset.data}`} alt={run.alt} className="slide-picture" /> : <span>[{run.alt}]</span>;
    }
    case 'blank':
      return <span className="inline-block border-b-[0.06em] border-current" style={{ width: `${run.width * 0.5}em` }} aria-label={say('blank')} role="img" />;
    case 'break':
      return <br />;
  }
}
const Runs = ({ runs, assets }: { runs: readonly PaperRun[]; assets: Assets }): ReactNode => runs.map((run, i) => <Run key={i} run={run} assets={assets} />);

function Block({ block: b, assets }: { block: PaperBlock; assets: Assets }): ReactNode {
  switch (b.is) {
    case 'paragraph':
      return (
        <p>
          <Runs runs={b.runs} assets={assets} />
        </p>
      );
    case 'code':
      return <pre className="whitespace-pre-wrap">{b.text}</pre>;
    case 'quote':
      return (
        <blockquote className="border-l-[0.12em] border-rule pl-[0.6em] italic">
          <Blocks blocks={b.blocks} assets={assets} />
        </blockquote>
      );
    case 'list': {
      const items = b.items.map((item, i) => (
        <li key={i}>
          <Blocks blocks={item} assets={assets} />
        </li>
      ));
      return b.ordered ? (
        <ol start={b.start} className="list-decimal pl-[1.6em]">
          {items}
        </ol>
      ) : (
        <ul className="list-disc pl-[1.2em]">{items}</ul>
      );
    }
    case 'table':
      return (
        <table className="border-collapse">
          <tbody>
            {b.rows.map((row, i) => (
              <tr key={i}>
                {row.map((c, k) => {
                  const Cell = c.head ? 'th' : 'td';
                  return (
                    <Cell key={k} colSpan={c.columns} rowSpan={c.rows} className="border border-rule px-[0.5em] py-[0.15em] text-left">
                      <Blocks blocks={c.blocks} assets={assets} />
                    </Cell>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </table>
      );
  }
}

/** Rich text of a slide. @param assets the pictures it names */
export const Blocks = ({ blocks, assets }: { blocks: readonly PaperBlock[]; assets: Assets }): ReactNode =>
  blocks.map((block, i) => <Block key={i} block={block} assets={assets} />);
