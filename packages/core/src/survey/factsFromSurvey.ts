import { proposedSystem } from './emptyDevice';
import type { FactKey, Facts, FactSource, FactValue } from './facts';
import type { Survey } from './format';

type Values = { readonly [K in FactKey]: FactValue<K> | undefined };

/**
 * The facts that a survey carries, each with its source and the time it was taken.
 * What the survey does not have stays unknown.
 */
export function factsFromSurvey(survey: Survey, source: FactSource): Facts {
  const values: Values = {
    maker: survey.device?.maker,
    model: survey.device?.model,
    serial: survey.device?.serial,
    year: survey.device?.year,
    chassis: survey.device?.chassis,
    processorName: survey.processor?.name,
    wordBits: survey.processor?.wordBits,
    cores: survey.processor?.cores,
    clockMhz: survey.processor?.clockMhz,
    cpuFlags: survey.processor?.flags,
    memoryBytes: survey.memoryBytes,
    firmwareMode: survey.firmware?.mode,
    secureBoot: survey.firmware?.secureBoot,
    tpm: survey.firmware?.tpm,
    graphicsTier: survey.display?.graphicsTier,
    screenWidth: survey.display?.widthPixels,
    screenHeight: survey.display?.heightPixels,
    disks: survey.disks,
    networkAdapters: survey.network,
    batteryPercent: survey.power?.batteryPercent,
    charger: survey.power?.charger,
    presentRelease: survey.system?.release ?? proposedSystem(survey.disks),
    presentLanguage: survey.system?.language,
    activation: survey.system?.activation,
    diskEncryption: survey.system?.diskEncryption,
    fastStart: survey.system?.fastStart,
    applications: survey.system?.applications,
    recoveryKeyPlace: survey.system?.recoveryKeyPlace,
    accounts: survey.system?.accounts,
    licencesHeld: survey.system?.licencesHeld,
    attachedDevices: survey.system?.attachedDevices,
    graphicsChips: survey.display?.chips,
    opticalDrive: survey.opticalDrive,
    bootFromFile: survey.firmware?.bootFromFile,
    storageMode: survey.firmware?.storageMode,
    licenceBelongsTo: survey.system?.licenceBelongsTo,
  };
  const facts: Record<string, unknown> = {};
  for (const [key, value] of Object.entries(values))
    if (value !== undefined) facts[key] = { value, source, at: survey.takenAt };
  // Every key was paired with its own value type above.
  return facts as Facts;
}

type AnyFact = NonNullable<Facts[FactKey]>;

/**
 * A new value in the place of another. Where one was typed and the other measured, the earlier one is kept beside it,
 * so that a person sees both where they are not the same.
 */
export function laidOver(before: AnyFact | undefined, next: AnyFact): AnyFact {
  const { other, ...was } = before ?? {};
  const kept = [before ? (was as Omit<AnyFact, 'other'>) : undefined, other].find(
    (one) => one !== undefined && (one.source === 'typed') !== (next.source === 'typed'),
  );
  // Both are of one key, so the value that is kept is of the same type.
  return kept ? ({ ...next, other: kept } as AnyFact) : next;
}

/** Facts of a new survey laid over what is known: what the new one has wins, the rest stays. */
export function mergeFacts(known: Facts, taken: Facts): Facts {
  const merged = Object.entries(taken).map(([key, next]) => [
    key,
    laidOver(Object.entries(known).find(([one]) => one === key)?.[1], next),
  ]);
  // Every value stays with its own key.
  return { ...known, ...(Object.fromEntries(merged) as Facts) };
}
