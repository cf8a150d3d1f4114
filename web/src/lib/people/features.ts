import type { Feature } from '../api/types';

/** What of a person a mask may be made of, as it is called. */
export const FEATURES: Record<Feature, string> = {
  person: 'Person',
  face: 'Face',
  skin: 'Skin',
  lips: 'Lips',
  eyes: 'Eyes',
  irises: 'Irises',
  brows: 'Brows',
  teeth: 'Teeth',
};
