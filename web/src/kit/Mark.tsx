/** The mark of Saucer: a cup's ring on its saucer. */
export function Mark({ size = 20 }: { size?: number }) {
  return (
    <svg width={size} height={size} viewBox="0 0 20 20" fill="none" stroke="currentColor" strokeWidth={1.4} aria-hidden>
      <circle cx={10} cy={10} r={8.8} />
      <circle cx={10} cy={10} r={5} />
    </svg>
  );
}
