import { beforeEach, describe, expect, it, vi } from 'vitest';

const settings = vi.hoisted(() => ({ keys: {} as Record<string, string> }));
vi.mock('../room/room.svelte', () => ({
  room: { settings, set: (change: object) => Object.assign(settings, change) },
}));
const { COMMANDS, commandOf, keyOf, mayBeKey, putKey, resetKeys, withKey } =
  await import('./commands');

beforeEach(() => resetKeys());

describe('keys', () => {
  it('belong to one command each', () => {
    expect(new Set(COMMANDS.map((c) => c.key)).size).toBe(COMMANDS.length);
    for (const { id } of COMMANDS) expect(commandOf(keyOf(id))).toBe(id);
  });

  it('change places when one is taken', () => {
    putKey('paint', 't');
    expect([keyOf('paint'), keyOf('tainted')]).toEqual(['t', 'p']);
    expect(commandOf('t')).toBe('paint');
    putKey('paint', 't');
    expect(keyOf('tainted')).toBe('p');
    resetKeys();
    expect(keyOf('paint')).toBe('p');
  });

  it('may be any sign, but not a key that controls use', () => {
    expect(['ö', '/', '€', 'q'].every(mayBeKey)).toBe(true);
    expect([' ', 'Enter', 'Tab', ''].some(mayBeKey)).toBe(false);
  });

  it('are told as they are', () => {
    putKey('compare', 'ä');
    expect(withKey('Compare', 'compare')).toBe('Compare (Ä)');
    expect(commandOf('y')).toBeUndefined();
  });
});
