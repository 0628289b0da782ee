/** Whether a device meets a release, requirement by requirement. */
export { type Assessment, assess, fixOf } from './assess';
export { partTitle, rankFixes } from './fixes';
export { type Judgement, type Verdict, bestVerdict, verdicts, worstVerdict } from './judgement';
