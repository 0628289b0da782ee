/**
 * A command as it is typed: what stands in braces is filled in.
 * @param values `adapter`: the name of the device’s adapter; `scheme`: gpt or mbr; `active`: empty, where a line is for
 * MBR only. A name that is not given stays as it is, for the hand to fill in.
 * @example commandText('airctl {adapter} scan', { adapter: 'wl-a' }) // 'airctl wl-a scan'
 */
export function commandText(type: string, values: Readonly<Record<string, string>>): string {
  return type.replaceAll(/\{([a-z]+)\}/g, (whole, name: string) => values[name] ?? whole).trim();
}
