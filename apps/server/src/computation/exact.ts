/** The solver library, loaded when it is first needed: what our own search leaves open is asked of it. */
import { exactlyBy, solverOf, type Exactly, type SolveLinear } from '@insel/core';
import highs from 'highs';

// Its types are those of its CommonJS build; as a module it is the function itself.
const loadHighs = highs as unknown as typeof highs.default;

let loaded: SolveLinear | undefined;
let loading: Promise<SolveLinear> | undefined;

export const loadSolver = (): Promise<SolveLinear> =>
  (loading ??= loadHighs().then((library) => (loaded = solverOf(library))));

/** Long enough for what a search leaves open of one failure; other questions wait meanwhile. */
const SECONDS = 2;

/** Undefined until the library is there. */
export const exactly = (): Exactly | undefined => loaded && exactlyBy(loaded, SECONDS);
