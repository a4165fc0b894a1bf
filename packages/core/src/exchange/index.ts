export * from './address-list.js';
export * from './compare-facts.js';
export * from './facts.js';
export * from './facts-script.js';
export * from './guest-table.js';
export * from './host-table.js';
export * from './machine-facts.js';
export * from './redfish.js';
export * from './take-computer-facts.js';
export * from './take-facts.js';
export * from './take-list.js';
export type { TableRow } from './read-cells.js';
export {
  notationOf,
  plainNumber,
  type ColumnNotation,
  type NumberNotation,
} from './number-notation.js';
