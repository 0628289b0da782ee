/** What isolating a device without fixes takes, one by one. */
export const isolationIds = ['cable', 'wireless', 'sharing', 'accounts', 'media', 'label', 'told'] as const;
type IsolationId = (typeof isolationIds)[number];

export const isolationTexts: Readonly<Record<IsolationId, string>> = {
  cable: 'Network cable out, and its socket marked',
  wireless: 'Wireless off, in the firmware where it can be',
  sharing: 'Shared folders and printers of the device closed',
  accounts: 'Online accounts signed out; a local account is left',
  media: 'Files reach it on a checked stick only: the rule is written beside it',
  label: 'A label on the lid: off the network, until when, and who to ask',
  told: 'The owner knows what it may be used for until then',
};
