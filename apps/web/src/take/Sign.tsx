/** The few signs of learners' pages, drawn here: a package of icons would weigh more than all of them. */

const PATHS = {
  up: 'M12 19V5m-7 7 7-7 7 7',
  down: 'M12 5v14m-7-7 7 7 7-7',
  grip: 'M9 5h.01M9 12h.01M9 19h.01M15 5h.01M15 12h.01M15 19h.01',
} as const;

export const Sign = ({ of, size = 18 }: { of: keyof typeof PATHS; size?: number }) => (
  <svg
    viewBox="0 0 24 24"
    width={size}
    height={size}
    fill="none"
    stroke="currentColor"
    strokeWidth={of === 'grip' ? 3 : 2}
    strokeLinecap="round"
    strokeLinejoin="round"
    aria-hidden
  >
    <path d={PATHS[of]} />
  </svg>
);
