/** The public face of the core, folder by folder in the order in which they may import each other. */
export * from './outcome/csvCell';
export * from './outcome/listText';
export * from './outcome/outcome';
export * from './outcome/parseWith';
export * from './quantity/bytes';
export * from './quantity/count';
export * from './quantity/writtenNumber';
export * from './quantity/day';
export * from './quantity/daySchema';
export * from './quantity/duration';
export * from './quantity/localTime';
export * from './practice/explain';
export * from './practice/practice';
export * from './practice/stepTimes';
export * from './practice/weights';
export * from './catalogue/catalogue';
export * from './catalogue/check';
export * from './catalogue/edit';
export * from './catalogue/fileSystems';
export * from './catalogue/find';
export * from './catalogue/requirement';
export * from './catalogue/resolve';
export * from './survey/compareFacts';
export * from './survey/completeness';
export * from './survey/contradictions';
export * from './survey/describe';
export * from './survey/disk';
export * from './survey/facts';
export * from './survey/factsFromSurvey';
export * from './survey/format';
export * from './survey/importSurvey';
export * from './survey/listFields';
export * from './survey/patch';
export * from './survey/typedFact';
export * from './disk/index';
export * from './manifest/index';
export * from './assess/assess';
export * from './assess/fixes';
export {
  verdicts,
  type AssessContext,
  type Fix,
  type Judgement,
  type Part,
  type Verdict,
} from './assess/judgement';
export * from './route/aspectClasses';
export * from './route/aspects';
export * from './route/blockingUnknowns';
export * from './route/bringings';
export * from './route/candidates';
export * from './route/catalogueOfRoutes';
export * from './route/compare';
export {
  isApart,
  routeIds,
  type Reason,
  type Remedy,
  type RouteContext,
  type RouteDefinition,
  type RouteId,
} from './route/definition';
export * from './route/estimate';
export * from './route/licence';
export * from './route/score';
export * from './route/smallestChange';
export * from './route/whatWouldChange';
export * from './backup/allocation';
export * from './backup/check';
export * from './backup/copies';
export * from './backup/copyTime';
export * from './backup/measuredCopy';
export * from './backup/dataSet';
export * from './backup/drive';
export * from './backup/fileFit';
export * from './backup/fileListHead';
export * from './backup/fit';
export * from './backup/grade';
export * from './backup/folderTree';
export * from './backup/forgotten';
export * from './backup/nameRules';
export * from './backup/pack';
export * from './backup/packHelp';
export * from './backup/proposals';
export * from './backup/renames';
export * from './backup/retention';
export * from './backup/sameDrive';
export * from './backup/saveFlow';
export * from './backup/nextOnSave';
export * from './backup/upcase';
export * from './backup/scope';
export * from './backup/scopeNotices';
export * from './media/stick';
export * from './firmware/bootKey';
export * from './firmware/switches';
export * from './runbook/buildRunbook';
export * from './runbook/custody';
export * from './runbook/diskPlan';
export * from './runbook/diskToWrite';
export * from './runbook/diskWork';
export * from './runbook/gates';
export * from './runbook/input';
export * from './runbook/isolation';
export * from './runbook/practiceFollowed';
export * from './runbook/preparation';
export * from './runbook/signature';
export * from './runbook/stale';
export * from './runbook/step';
export * from './runbook/stepMakers';
export * from './runbook/troubles';
export * from './schedule/nextHands';
export * from './record/chain';
export * from './record/copySignatures';
export * from './record/event';
export * from './record/exportFormat';
export * from './record/handover';
export * from './record/hands';
export * from './record/handoverSheet';
export * from './record/filesFlow';
export * from './record/ownerSheet';
export * from './record/measuredCopies';
export * from './record/logRows';
export * from './record/move';
export * from './record/outlook';
export * from './record/oldRecords';
export * from './record/parts';
export * from './record/practiceEffect';
export * from './record/readCopies';
export * from './record/reading';
export * from './record/reconciled';
export * from './record/secret';
export * from './record/signable';
export * from './record/stage';
export * from './record/commands/callOff';
export * from './record/commands/choose';
export * from './record/commands/command';
export * from './record/commands/depart';
export * from './record/commands/disk';
export * from './record/commands/fileLists';
export * from './record/commands/handOver';
export * from './record/commands/identity';
export * from './record/commands/keeping';
export * from './record/commands/prepare';
export * from './record/commands/reconcile';
export * from './record/commands/save';
export * from './record/commands/splitDataSet';
export * from './record/commands/steps';
export * from './record/commands/survey';
export * from './record/commands/takeRow';
