import { z } from 'zod';

/** What a page of an installer asks. Each kind has its answer in `runbook/answers`. */
export const pageKinds = [
  'language',
  'network',
  'updates',
  'key',
  'edition',
  'upgrade-or-custom',
  'disk',
  'partitions',
  'file-system',
  'swap',
  'loader',
  'encryption',
  'time-zone',
  'administrator',
  'account',
  'computer-name',
  'codecs',
  'desktop',
  'graphics-driver',
  'sound',
  'privacy',
] as const;
export type PageKind = (typeof pageKinds)[number];

/** What may be picked on the page that asks how to install. */
export const installChoices = ['upgrade', 'whole-disk', 'beside', 'by-hand'] as const;
export type InstallChoice = (typeof installChoices)[number];

/** When a page is asked: before files are copied, meanwhile, or at the first start. */
export const pageMoments = ['before-copy', 'while-copying', 'first-start'] as const;
export type PageMoment = (typeof pageMoments)[number];

/** One page of an installer, as the installer names it. */
export const InstallerPageSchema = z.strictObject({
  kind: z.enum(pageKinds),
  name: z.string().trim().min(1).max(60),
  when: z.enum(pageMoments).default('before-copy'),
  /** Whether it goes no further, or does less, without a network. */
  needsNetwork: z.boolean().default(false),
  /** Whether it comes when the system is upgraded, too. */
  onUpgrade: z.boolean().default(false),
  /** What the page that asks how to install calls its choices. */
  choices: z
    .array(z.strictObject({ means: z.enum(installChoices), label: z.string().trim().min(1).max(60) }))
    .max(8)
    .default([]),
  /** The choice that is selected when that page opens. */
  opensWith: z.enum(installChoices).exactOptional(),
});

export type InstallerPage = z.infer<typeof InstallerPageSchema>;
