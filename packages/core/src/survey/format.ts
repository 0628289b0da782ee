import { z } from 'zod';
import { DiskSchema } from './disk';
import { factValueSchemas, NetworkAdapterSchema } from './facts';
import { InstantSchema } from '../quantity/daySchema';

export const surveyFormatName = 'ulvane-survey';
export const surveyFormatVersion = 1;
/** A survey is a few kilobytes; whatever is larger is not one. */
export const surveyLimitBytes = 1024 * 1024;

export const FolderSchema = z.strictObject({
  owner: z.string().max(100).exactOptional(),
  name: z.string().min(1).max(100),
  path: z.string().min(1).max(1024),
  sizeBytes: z.int().min(0),
  fileCount: z.int().min(0),
  largestFileBytes: z.int().min(0).exactOptional(),
});

const v = factValueSchemas;

/** The survey file, version 1. Absent means: could not be read. See docs/formats.md. */
export const SurveySchema = z.strictObject({
  format: z.literal(surveyFormatName),
  version: z.literal(surveyFormatVersion),
  takenAt: InstantSchema,
  collector: z
    .strictObject({
      version: z.string().max(40),
      asRoot: z.boolean(),
      /** What running it as root would add. */
      rootWouldAdd: z.array(z.string().max(200)).max(50),
    })
    .exactOptional(),
  device: z
    .strictObject({
      maker: v.maker.exactOptional(),
      model: v.model.exactOptional(),
      serial: v.serial.exactOptional(),
      year: v.year.exactOptional(),
      chassis: v.chassis.exactOptional(),
    })
    .exactOptional(),
  processor: z
    .strictObject({
      name: v.processorName.exactOptional(),
      wordBits: v.wordBits.exactOptional(),
      cores: v.cores.exactOptional(),
      clockMhz: v.clockMhz.exactOptional(),
      flags: v.cpuFlags.exactOptional(),
    })
    .exactOptional(),
  memoryBytes: v.memoryBytes.exactOptional(),
  firmware: z
    .strictObject({
      mode: v.firmwareMode.exactOptional(),
      secureBoot: v.secureBoot.exactOptional(),
      tpm: v.tpm.exactOptional(),
      bootFromFile: v.bootFromFile.exactOptional(),
      storageMode: v.storageMode.exactOptional(),
    })
    .exactOptional(),
  display: z
    .strictObject({
      graphicsTier: v.graphicsTier.exactOptional(),
      widthPixels: v.screenWidth.exactOptional(),
      heightPixels: v.screenHeight.exactOptional(),
      chips: v.graphicsChips.exactOptional(),
    })
    .exactOptional(),
  disks: z.array(DiskSchema).max(32).exactOptional(),
  opticalDrive: v.opticalDrive.exactOptional(),
  power: z
    .strictObject({ batteryPercent: v.batteryPercent.exactOptional(), charger: v.charger.exactOptional() })
    .exactOptional(),
  network: z.array(NetworkAdapterSchema).max(32).exactOptional(),
  system: z
    .strictObject({
      release: v.presentRelease.exactOptional(),
      language: v.presentLanguage.exactOptional(),
      activation: v.activation.exactOptional(),
      licenceBelongsTo: v.licenceBelongsTo.exactOptional(),
      diskEncryption: v.diskEncryption.exactOptional(),
      fastStart: v.fastStart.exactOptional(),
      applications: v.applications.exactOptional(),
      recoveryKeyPlace: v.recoveryKeyPlace.exactOptional(),
      accounts: v.accounts.exactOptional(),
      licencesHeld: v.licencesHeld.exactOptional(),
      attachedDevices: v.attachedDevices.exactOptional(),
    })
    .exactOptional(),
  folders: z.array(FolderSchema).max(500).exactOptional(),
});

export type Survey = z.infer<typeof SurveySchema>;
export type SurveyFolder = z.infer<typeof FolderSchema>;
