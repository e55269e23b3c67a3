/** The shares of points that an answer can be given, as a row of small buttons. */
import { written } from '../../ui/figures.js';
import { say } from '../../words/say.js';

/** What can be given by one key: where a part means nothing, nothing or all; each whole point of up to nine, a half of one; of more, nothing, a half and all. */
export function stepsOf(points: number, whole = false): { key: string; share: number; shown: string }[] {
  if (whole)
    return [
      { key: '0', share: 0, shown: '0' },
      { key: '1', share: 1, shown: written(points) },
    ];
  if (Number.isInteger(points) && points >= 2 && points <= 9)
    return Array.from({ length: points + 1 }, (_, n) => ({ key: String(n), share: n / points, shown: String(n) }));
  return [
    { key: '0', share: 0, shown: '0' },
    { key: '5', share: 0.5, shown: points === 1 ? '½' : written(points / 2) },
    { key: '1', share: 1, shown: written(points) },
  ];
}

interface Props {
  /** Says what the points are for. */
  label: string;
  points: number;
  /** A part of the points means nothing. */
  whole?: boolean;
  /** The share that it has. */
  share: number | undefined;
  disabled?: boolean;
  onGive: (share: number) => void;
}
export function Credits({ label, points, whole, share, disabled, onGive }: Props) {
  return (
    <span role="group" aria-label={label} className="inline-flex gap-1">
      {stepsOf(points, whole).map((s) => {
        const on = share !== undefined && Math.abs(s.share - share) < 1e-9;
        return (
          <button
            key={s.key}
            type="button"
            aria-pressed={on}
            aria-label={say('{shown} of {written}', { shown: s.shown, written: written(points) })}
            disabled={disabled}
            onClick={() => onGive(s.share)}
            className={`h-7 min-w-7 cursor-pointer rounded border px-1.5 text-sm font-semibold disabled:cursor-default ${
              on
                ? s.share >= 1
                  ? 'border-dill bg-dill-soft text-dill'
                  : s.share > 0
                    ? 'border-amber bg-amber-soft text-amber'
                    : 'border-brick bg-brick-soft text-brick'
                : 'border-rule bg-sheet text-ink-2 hover:border-ink-2'
            }`}
          >
            {s.shown}
          </button>
        );
      })}
    </span>
  );
}
