import { SvelteMap } from 'svelte/reactivity';
import { call } from '../api/client';
import type { Sample } from '../api/types';
import { swatch } from '../instruments/swatch';
import type { Editor } from '../studio/editor.svelte';

/** How tones look on this photo's screen, asked of the engine once each. */
export function tonesOf(editor: Editor): { of: (rgb: Sample['rgb']) => string } {
  const seen = new SvelteMap<string, string>();
  const asked = new Set<string>();

  async function ask(name: string, values: Sample['rgb']): Promise<void> {
    const path = { photo_id: editor.photo.id };
    const body = { colours: [values] };
    const [colour] = await call('post', '/api/photos/{photo_id}/seen', { path, body });
    seen.set(name, swatch(colour));
  }

  return {
    of: (rgb) => {
      const name = rgb.join();
      if (!asked.has(name)) {
        asked.add(name);
        void editor.attempt(() => ask(name, rgb));
      }
      return seen.get(name) ?? 'transparent';
    },
  };
}
