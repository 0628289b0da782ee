/** A machine as one value, what can be done to it, and whether a plan can be carried out on it. */
export { type PlanStep, carryOut, risksOfStep } from './carryOut';
export { diskText, machineChanges, runningText } from './changes';
export { type Operator } from './operator';
export { after, needsOf } from './operatorRules';
export { orderSteps } from './order';
export { type Machine } from './state';
export { suppliersOf } from './suppliers';
