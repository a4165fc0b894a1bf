/** The hatching of what is kept free on purpose; once a page. */
export const Wash = () => (
  <svg width="0" height="0" className="absolute" aria-hidden>
    <defs>
      <pattern
        id="wash"
        width="5"
        height="5"
        patternUnits="userSpaceOnUse"
        patternTransform="rotate(45)"
      >
        <rect width="1" height="5" fill="var(--used)" />
      </pattern>
    </defs>
  </svg>
);
