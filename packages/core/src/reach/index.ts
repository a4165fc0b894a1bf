export * from './ask.js';
export * from './matrix.js';
export { ping, type Echo, type Failure, type Hop, type Verdict } from './ping.js';
export * from './record-topology.js';
export { restsOn, type RestsOn } from './rests-on.js';
export * from './topology.js';
export { wireRecord, nodeKeys } from './wire-record.js';
export * from './wiring.js';
