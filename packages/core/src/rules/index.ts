/** House rules, with both sides of each, and how long steps take. */
export { houseRuleChanges, houseRuleLabel, houseRuleTexts } from './explain';
export {
  accountKinds,
  RuleExceptionSchema,
  type HouseRules,
  HouseRulesSchema,
  type HouseRuleKey,
  defaultHouseRules,
  houseRulesOfMove,
  houseRuleKeys,
} from './houseRules';
export { stepKinds } from './stepTimes';
export { rateIds, rateLabels } from './rates';
export { setUpLabels } from './setUpNames';
export { upkeeps } from './upkeep';
export { termIds, termLabels } from './weights';
