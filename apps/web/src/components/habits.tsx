/** What a machine does that its addresses do not tell: which packets it takes by which adapter. */
import type { Row } from '@insel/core';
import type { At } from '../client/change.js';
import { Fact } from './sheet.js';
import { OneOf } from './small-edits.js';

const REVERSE_PATHS: Record<Row<'guest'>['reversePath'], string> = {
  unknown: 'nobody said',
  off: 'off',
  loose: 'loose: a way back must exist',
  strict: 'strict: the way back must be the way it came',
};
const MODELS: Record<Row<'guest'>['hostModel'], string> = {
  unknown: 'nobody said',
  weak: 'all its addresses, by any adapter',
  strong: 'an address by its own adapter only',
};
const choicesOf = (words: Record<string, string>) =>
  Object.entries(words).map(([value, label]) => ({ value, label }));

export function Habits({
  at,
  of: { reversePath, hostModel },
}: {
  at: (field: 'reversePath' | 'hostModel') => At;
  of: Pick<Row<'guest'>, 'reversePath' | 'hostModel'>;
}) {
  return (
    <>
      <Fact name="Filters by reverse path">
        <OneOf
          at={at('reversePath')}
          name="Filters by reverse path"
          value={reversePath}
          choices={choicesOf(REVERSE_PATHS)}
        />
      </Fact>
      <Fact name="Answers for">
        <OneOf
          at={at('hostModel')}
          name="Answers for"
          value={hostModel}
          choices={choicesOf(MODELS)}
        />
      </Fact>
    </>
  );
}
