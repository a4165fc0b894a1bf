/** Moves that empty a host, get by with fewer hosts or even a group out: asked, looked for, shown with their proof, drawn. */
import type { PatchRoundView, RearrangedView } from '@insel/contract';
import { read } from '../../client/read.js';
import { FoundMoves } from './found-moves.js';
import { FoundRound, type RoundQuestion } from './found-round.js';
import { SearchPage, useSearch } from './search-parts.js';
import { type MovesQuestion, Question } from './moves-question.js';

type Found =
  | { question: MovesQuestion; answer: RearrangedView }
  | { round: RoundQuestion; answer: PatchRoundView };

export function MovesPage() {
  const { look, ...search } = useSearch(
    async (searching, question: MovesQuestion | RoundQuestion): Promise<Found> =>
      'aim' in question
        ? { question, answer: await read('rearranged', { ...question, search: searching }) }
        : { round: question, answer: await read('patchRound', { ...question, search: searching }) },
  );
  const { found, name } = search;
  return (
    <SearchPage
      width={340}
      title="Find moves"
      about="Guests change hosts within a group: each move is possible when it is made, and rules hold after each."
      question={<Question look={look} busy={name !== null} />}
      search={search}
      hint="Say what is wanted and of which hosts. What is found stands here: the moves in their order, what each host has left, what cannot be placed and what it lacks, and whether it is proved that nothing is better."
    >
      {found &&
        ('question' in found ? (
          <FoundMoves key={found.answer.revision} {...found} />
        ) : (
          <FoundRound key={found.answer.revision} question={found.round} answer={found.answer} />
        ))}
    </SearchPage>
  );
}
