export * from './basis.js';
export * from './carry-out.js';
export * from './decide-plan.js';
export * from './plan-changes.js';
export * from './plan-fleet.js';
export * from './step-context.js';
export { idOfStep, planOfSteps, type DrawnStep } from './plan-of-steps.js';
