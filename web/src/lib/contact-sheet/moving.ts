/** The shoots that photos may be moved to from one: one's own others. */
export function placesToMoveTo<Shoot extends { id: number; may: string }>(
  shoots: Shoot[],
  from: number,
): Shoot[] {
  return shoots.filter((s) => s.id !== from && s.may === 'own');
}
