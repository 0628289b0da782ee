type Marked = { readonly name: string; readonly serial: string };

/** A mark as it is compared: case, blanks and dashes come from how a label was read. */
function bare(mark: string): string {
  return mark.toLowerCase().replaceAll(/[^\p{L}\p{N}]/gu, '');
}

/**
 * Whether two devices are one and the same by what stands on their labels: serials decide where both are known, else
 * names do. Of two that cannot be told apart it is taken for granted that they are one.
 * @example isSameDevice({ name: 'B-07', serial: 'AB 12-34' }, { name: 'b07', serial: 'ab1234' }) // true
 */
export function isSameDevice(one: Marked, other: Marked): boolean {
  const serials = [bare(one.serial), bare(other.serial)];
  if (serials.every((serial) => serial !== '')) return serials[0] === serials[1];
  return bare(one.name) === bare(other.name);
}

/** Whether a destination was replaced by another drive: another serial, or another entry of the inventory. */
export function isAnotherDrive(
  before: { readonly serial: string; readonly driveId?: string | undefined; readonly kind: string },
  after: { readonly serial: string; readonly driveId?: string | undefined; readonly kind: string },
): boolean {
  return (
    bare(before.serial) !== bare(after.serial) ||
    before.kind !== after.kind ||
    (before.driveId !== undefined && before.driveId !== after.driveId)
  );
}
