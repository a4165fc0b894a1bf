import { name } from '../field.js';
import { described } from './described.js';

/** A place with hosts; a failure domain. */
export const site = { fields: { name: name(), ...described } };
