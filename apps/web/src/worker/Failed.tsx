/** Says that something computed in a worker failed, and tries again at a press. */
export function Failed({ what, again }: { what: string; again: () => void }) {
  return (
    <span role="alert" className="font-[650] text-brick">
      {what}{' '}
      <button type="button" className="link" onClick={again}>
        Try again
      </button>
    </span>
  );
}
