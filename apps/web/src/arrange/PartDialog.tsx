/** A part: what it is called, what it asks and shows, what its items are worth, and whether they keep their order. */
import { isQuestion, type QuizSet, type Section } from '@zakuska/core';
import { useState } from 'react';
import { RichEditor } from '../edit/RichEditor.js';
import { Button } from '../ui/Button.js';
import { Field, Input } from '../ui/Field.js';
import { Modal } from '../ui/Modal.js';
import { say } from '../words/say.js';

interface Props {
  set: QuizSet;
  part: Section;
  /** Whether it is yet to be made. */
  fresh: boolean;
  /** Items that it has or is to have. */
  count: number;
  onDone: (part: Section, points: number | undefined) => void;
  onClose: () => void;
}
export function PartDialog({ set, part, fresh, count, onDone, onClose }: Props) {
  const [now, setNow] = useState(part);
  const own = set.items.filter((i) => i.section === part.id && isQuestion(i));
  const alike = own.every((i) => i.points === own[0]?.points) ? own[0]?.points : undefined;
  const [points, setPoints] = useState(alike === undefined ? '' : String(alike));
  const value = points.trim() === '' ? undefined : Number(points);
  const wrong = value !== undefined && !(value >= 0 && value <= 1_000_000);
  return (
    <Modal wide open onClose={onClose} title={!fresh ? say('Change the part') : say('A part of {count, plural, one {one item} other {# items}}', { count })}>
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          if (!wrong) onDone({ ...now, ...(now.title !== undefined && { title: now.title.trim() }) }, value);
        }}
      >
        <Field label={say('Title of the part')}>
          {(id) => <Input id={id} autoFocus maxLength={300} value={now.title ?? ''} onChange={(e) => setNow({ ...now, title: e.target.value })} />}
        </Field>
        <RichEditor
          label={say('Instructions of the part')}
          line
          value={now.instructions ?? ''}
          onFocus={() => undefined}
          onCommit={(instructions) => setNow((p) => ({ ...p, instructions }))}
        />
        <RichEditor
          label={say('Passage that its items are about')}
          value={now.passage ?? ''}
          onFocus={() => undefined}
          onCommit={(passage) => setNow((p) => ({ ...p, passage }))}
        />
        {own.length > 0 && (
          <Field
            label={say('Points of each question')}
            hint={alike === undefined ? say('They differ now; empty leaves them so.') : undefined}
            error={wrong ? say('A number from 0 on.') : undefined}
          >
            {(id) => <Input id={id} className="w-28!" inputMode="decimal" value={points} onChange={(e) => setPoints(e.target.value)} />}
          </Field>
        )}
        <label className="flex items-start gap-2">
          <input
            type="checkbox"
            className="mt-1 accent-beet"
            checked={now.keepOrder ?? false}
            onChange={(e) => setNow((p) => ({ ...p, keepOrder: e.target.checked }))}
          />
          {say('Its items keep their order where those of others are shuffled')}
        </label>
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>{say('Cancel')}</Button>
          <Button type="submit" look="primary" disabled={wrong}>
            {fresh ? say('Make the part') : say('Save')}
          </Button>
        </div>
      </form>
    </Modal>
  );
}
