type Marked = { readonly name: string; readonly serial: string };

/** A mark as it is compared: case, blanks and dashes come from how a label was read. */
function bare(mark: string): string {
  return mark.toLowerCase().replaceAll(/[^\p{L}\p{N}]/gu, '');
}

/**
 * Whether two devices are one and the same by their labels: the same name or the same serial is enough. One of the two
 * may have been read wrong, and the stick is erased.
 * @example isSameDevice({ name: 'B-07', serial: 'AB 12-34' }, { name: 'b07', serial: 'ab1234' }) // true
 */
export function isSameDevice(one: Marked, other: Marked): boolean {
  const same = (mark: 'name' | 'serial') => bare(one[mark]) !== '' && bare(one[mark]) === bare(other[mark]);
  return same('name') || same('serial');
}

/** Whether two serials are one, however their labels were read; an empty one is nobody's. */
export function isSameSerial(one: string, other: string): boolean {
  return bare(one) !== '' && bare(one) === bare(other);
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
