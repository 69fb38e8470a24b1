/** Our sign: a five-bar gate, the way a load is tallied. */
export function TallyMark({ size = 28 }: { size?: number }) {
  return (
    <svg width={size} height={size * 0.78} viewBox="0 0 28 22" fill="none" strokeLinecap="round" aria-hidden="true">
      <path d="M7 3 4.5 19M12.2 3 9.7 19M17.4 3 14.9 19M22.6 3l-2.5 16" stroke="currentColor" strokeWidth="2.4" />
      <path d="M2 15.5 26 6.5" stroke="#f0b429" strokeWidth="2.6" />
    </svg>
  );
}
