/** Whose turn it is, across moves. */
export { nextHands } from './nextHands';
