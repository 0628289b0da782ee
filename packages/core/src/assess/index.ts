/** Whether a device meets a release, requirement by requirement. */
export { type Assessment, assess, worstVerdict } from './assess';
export { partTitle, rankFixes } from './fixes';
export { type Judgement, type Verdict, verdicts } from './judgement';
