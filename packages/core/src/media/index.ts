/** Installer sticks, and the mode in which they start. */
export { stickPlan } from './stick';
export {
  checksumGroups,
  type Image,
  type ImageFinding,
  ImageSchema,
  judgeImage,
  releasesOfImage,
  signatureStates,
} from './image';
export {
  canBeWritten,
  mediumMinutes,
  type MediumNeed,
  MediumNeedSchema,
  type MediumTag,
  type Serving,
  serveNeeds,
  servings,
  tagOf,
} from './shelf';
export { contentFits, type MediumAsked } from './fits';
export { downloadMinutes, measuredLine, usualLine } from './line';
export { mediumWay, mediumWayNames, wayFault } from './way';
export { type StartOn, startingMode } from './startingMode';
