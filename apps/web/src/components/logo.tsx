/** The mark: an island and its reflection. */
export function Logo({ size }: { size: number }) {
  return (
    <svg
      viewBox="0 0 24 24"
      width={size}
      height={size}
      className="text-teal"
      aria-hidden
      fill="none"
      stroke="currentColor"
      strokeWidth="2.2"
    >
      <path d="M3 15h18M6.5 15c.6-5.2 2.6-8 5.5-8s4.900 2.800 5.500 8" />
      <path d="M3 19h18" strokeDasharray="3 2.2" />
    </svg>
  );
}
