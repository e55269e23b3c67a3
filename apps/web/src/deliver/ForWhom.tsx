/** Whose answer sheets are made: anybody's, or one for each of a class, with their name and a code that the sheet is known by later. */
import { useQuery } from '@tanstack/react-query';
import { personCode, type SheetPerson } from '@zakuska/core';
import { classesOf, fetchClass } from '../api/classes.js';
import { wordsOf } from '../api/client.js';
import { useOpenSet } from '../set/context.js';
import { Field, Select } from '../ui/Field.js';
import { say } from '../words/say.js';

/** Nobody by name: a sheet for anybody. */
const ANYBODY: readonly SheetPerson[] = [];

/** The people of a class as answer sheets name them; undefined until they are known. @param classId '' for anybody */
export function useSheetPeople(classId: string): readonly SheetPerson[] | undefined {
  const { data } = useQuery({
    queryKey: ['class', classId, 'sheets'],
    queryFn: async (): Promise<SheetPerson[]> => {
      const { name: group, members } = await fetchClass(classId);
      return members.map((m) => ({ code: personCode(m.id), name: m.name, group }));
    },
    enabled: classId !== '',
  });
  return classId === '' ? ANYBODY : data;
}

export function ForWhom({ classId, onClass }: { classId: string; onClass: (id: string) => void }) {
  const { view } = useOpenSet();
  const classes = useQuery(classesOf(view.workspaceId));
  if (classes.isError) return <p className="text-[13.5px] text-brick">{say('The classes could not be fetched: {words}', { words: wordsOf(classes.error) })}</p>;
  if (!classes.data?.length) return null;
  return (
    <Field label={say('For')} hint={classId ? say('Each sheet has the name on it, and a code by which it is known when it is read.') : undefined}>
      {(id, note) => (
        <Select id={id} aria-describedby={note} value={classId} onChange={(e) => onClass(e.target.value)}>
          <option value="">{say('anybody, who writes the name on it')}</option>
          {classes.data.map((c) => (
            <option key={c.id} value={c.id}>
              {say('each of {name} ({people})', { name: c.name, people: c.people })}
            </option>
          ))}
        </Select>
      )}
    </Field>
  );
}
