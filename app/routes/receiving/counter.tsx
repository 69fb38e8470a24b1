/** One less, the count, one more: big enough for a thumb. */
export function Counter({
  label,
  name,
  text,
  about,
  wrong,
  onText,
  onStep,
  onHere,
  onNext,
}: {
  label: string;
  /** What is counted, for the two buttons. */
  name: string;
  text: string;
  about?: string;
  wrong: boolean;
  onText: (text: string) => void;
  onStep: (by: number) => void;
  onHere?: () => void;
  onNext?: () => void;
}) {
  return (
    <span className="flex h-12 items-stretch border border-rule border-b-2 border-b-ink bg-field max-lg:col-span-2 max-lg:w-full">
      <button
        type="button"
        className="w-12 text-lg text-ink-2"
        aria-label={`One less of ${name}`}
        onClick={() => onStep(-1)}
      >
        −
      </button>
      <input
        value={text}
        onChange={(e) => onText(e.target.value)}
        onFocus={onHere}
        onKeyDown={(e) => {
          if (e.key !== "Enter") return;
          e.preventDefault();
          onNext?.();
        }}
        aria-label={label}
        aria-invalid={wrong ? true : undefined}
        aria-describedby={about}
        inputMode="decimal"
        maxLength={16}
        placeholder="0"
        className="min-w-0 flex-1 bg-transparent text-center font-mono text-lg font-semibold outline-none placeholder:text-ink-3"
      />
      <button
        type="button"
        className="w-12 text-lg text-ink-2"
        aria-label={`One more of ${name}`}
        onClick={() => onStep(1)}
      >
        +
      </button>
    </span>
  );
}
