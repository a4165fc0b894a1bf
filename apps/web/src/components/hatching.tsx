/** The hatching of what is kept free, or lies idle: a pattern to fill with, by its id. */
export const Hatching = ({ id }: { id: string }) => (
  <pattern id={id} width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
    <rect width="1" height="5" fill="var(--used)" />
  </pattern>
);
