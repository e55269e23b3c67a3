/** The foot of Check: its keys in a few words, and the ways on. */
import type { SetDocument } from '@zakuska/core';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { Foot, KeyHint } from '../frame/Frame.js';
import { Button, Kbd } from '../ui/Button.js';
import { Say, say } from '../words/say.js';
import type { Dialog } from './CheckDialogs.js';
import { manyItems } from './useItemChanges.js';

interface CheckFootProps {
  document: SetDocument;
  set: string;
  mayEdit: boolean;
  narrow: boolean;
  /** How many findings there are; undefined while they are not known. */
  findings: number | undefined;
  /** How many items have changed where they were taken from. */
  newer: number;
  /** Whether all items are checked or left out. */
  done: boolean;
  sourceShown: boolean;
  onSource: (shown: boolean) => void;
  onOpen: (dialog: Dialog) => void;
  /** What went wrong. */
  failed: ReactNode;
  /** The menu that adds an item. */
  add: ReactNode;
}

export function CheckFoot({ document: doc, set, mayEdit, narrow, findings, newer, done, sourceShown, onSource, onOpen, failed, add }: CheckFootProps) {
  return (
    <Foot>
      <KeyHint>
        <Kbd>J</Kbd> <Kbd>K</Kbd> {say('next, previous')}
      </KeyHint>
      <KeyHint>
        <Kbd>1</Kbd>
        <Say text="–{kbd} key" values={{ kbd: <Kbd>9</Kbd> }} />
      </KeyHint>
      <KeyHint>
        <Kbd>F</Kbd> {say('finding')}
      </KeyHint>
      <KeyHint>
        <Kbd>U</Kbd> {say('undo')}
      </KeyHint>
      <button type="button" className="hidden min-h-6 cursor-pointer items-center gap-1 sm:inline-flex" onClick={() => onOpen('keys')}>
        <Kbd>?</Kbd> {say('all shortcuts')}
      </button>
      <span className="flex-1">{failed}</span>
      {narrow && (
        <Button look="quiet" onClick={() => onOpen('findings')}>
          {findings === undefined ? say('Checking …') : say('{findings, plural, one {# finding} other {# findings}}', { findings })}
        </Button>
      )}
      {add}
      {newer > 0 && (
        <Button look="quiet" onClick={() => onOpen('newer')}>
          {say('{many} changed where taken from', { many: manyItems(newer) })}
        </Button>
      )}
      {(mayEdit || doc.work) && (
        <Button look="quiet" onClick={() => onOpen('divide')}>
          {doc.work ? say('Who checks what') : say('Divide the checking')}
        </Button>
      )}
      <Button look="quiet" aria-pressed={sourceShown} onClick={() => onSource(!sourceShown)}>
        {say('Sources')}
      </Button>
      <Link to={`/sets/${set}/check/languages`} className="link text-sm">
        {say('Languages')}
      </Link>
      <Link to={`/sets/${set}/text`} className="link text-sm">
        {say('Edit as text')}
      </Link>
      <Link to={`/sets/${set}/deliver`} className="link text-sm">
        {done ? say('All checked: on to Deliver') : say('Go to Deliver')}
      </Link>
    </Foot>
  );
}
