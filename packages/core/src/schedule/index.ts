/** Whose turn it is, across moves. */
export { nextUp } from './nextUp';
