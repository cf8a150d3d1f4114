import { describe, expect, it } from 'vitest';
import { pending } from './pending.svelte';

describe('pending work', () => {
  it('is anything that was not dropped, told once for each that has it', () => {
    const [one, two] = [{}, {}];
    expect(pending.any).toBe(false);
    pending.set(one, { text: 'saving', href: '/photos/1', stuck: false });
    pending.set(two, { text: 'refused', href: '/photos/2', stuck: true });
    pending.set(one, { text: 'still saving', href: '/photos/1', stuck: false });
    expect([pending.any, pending.stuck.map((w) => w.text)]).toEqual([true, ['refused']]);
    pending.drop(two);
    expect([pending.any, pending.stuck]).toEqual([true, []]);
    pending.drop(one);
    expect(pending.any).toBe(false);
  });
});
