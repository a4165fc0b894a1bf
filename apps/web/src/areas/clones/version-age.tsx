import type { VersionView } from '@insel/contract';
import { AGE_DAYS, counted } from '@insel/core';

/** How long ago a version was sealed; from a quarter on it is told in amber, with a word. */
export function Age({ version: { age } }: { version: VersionView }) {
  if (age === null) return <span className="text-faint">not sealed</span>;
  const words = age === 0 ? 'today' : `${counted(age, 'day')} ago`;
  return age >= AGE_DAYS.caution ? (
    <span className="font-bold text-amber">◆ old, {words}</span>
  ) : (
    <span>{words}</span>
  );
}
