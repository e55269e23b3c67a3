/** The language beside that of the set: one that is there, or another to begin with. */
import { languageName } from '@zakuska/core';
import { useMemo, useState } from 'react';
import { BLANK } from '../ui/blank.js';
import { Input } from '../ui/Field.js';
import { locale, say } from '../words/say.js';

/** Languages that are offered by name; any other is typed by its code. */
const COMMON = (
  'ar bg bn ca cs cy da de el en es et eu fa fi fr ga gl he hi hr hu hy id is it ja ka ko ku lt lv mk ms mt nl no pl ps pt pt-BR ro ru sk sl so sq sr sv sw ta th ti tr uk ur ' +
  'vi zh-Hans zh-Hant'
).split(' ');
const TAG = /^[a-z]{2,3}(?:-[A-Za-z0-9]{2,8})*$/;
const OTHER = 'other';

interface Props {
  there: readonly string[];
  own: string | undefined;
  value: string;
  mayAdd: boolean;
  onChoose: (language: string) => void;
}
export function LanguageSelect({ there, own, value, mayAdd, onChoose }: Props) {
  const [typing, setTyping] = useState(false);
  const [typed, setTyped] = useState('');
  const others = useMemo(
    () =>
      COMMON.filter((l) => !there.includes(l) && l !== own)
        .map((code) => ({ code, name: languageName(code, locale()) }))
        .sort((a, b) => a.name.localeCompare(b.name, 'en')),
    [there, own],
  );
  if (typing)
    return (
      <span className="inline-flex items-center gap-2 text-base">
        <Input
          aria-label={say('Code of the language')}
          autoFocus
          className="w-32!"
          placeholder={say('pt-AO')}
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
          onKeyDown={(e) => {
            if (e.key === 'Escape') setTyping(false);
            if (e.key !== 'Enter' || !TAG.test(typed.trim())) return;
            onChoose(typed.trim());
            setTyping(false);
          }}
        />
        <span className="text-[13px] text-ink-2">
          {say('{what}, Enter', {
            what: typed && !TAG.test(typed.trim()) ? say('as BCP 47 writes it: fr, pt-BR') : languageName(typed.trim() || 'pt-AO', locale()),
          })}
        </span>
      </span>
    );
  return (
    <select
      aria-label={say('Language')}
      className={`${BLANK} max-w-full field-sizing-content`}
      value={value}
      onChange={(e) => (e.target.value === OTHER ? setTyping(true) : onChoose(e.target.value))}
    >
      {!value && <option value="">…</option>}
      {value && !there.includes(value) && <option value={value}>{languageName(value, locale())}</option>}
      {there.length > 0 && (
        <optgroup label={say('In this set')}>
          {there.map((l) => (
            <option key={l} value={l}>
              {languageName(l, locale())}
            </option>
          ))}
        </optgroup>
      )}
      {mayAdd && (
        <optgroup label={say('Add')}>
          {others
            .filter((o) => o.code !== value)
            .map((o) => (
              <option key={o.code} value={o.code}>
                {o.name}
              </option>
            ))}
          <option value={OTHER}>{say('another one …')}</option>
        </optgroup>
      )}
    </select>
  );
}
