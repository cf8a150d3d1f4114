import type { PersonPart } from '../../api/types';
import PersonControls from '../../people/PersonControls.svelte';
import { FEATURES } from '../../people/features';
import type { PartDescriptor } from '../descriptor';

export default {
  kind: 'people',
  order: 68,
  title: (part) => {
    const { of, who } = part as PersonPart;
    return who == null ? FEATURES[of] : `${FEATURES[of]}, ${who}`;
  },
  adding: [
    [
      'Person: click',
      'M12 3A4 4 0 1 0 12 11A4 4 0 1 0 12 3M5 21C5 12 19 12 19 21Z',
      ({ person }) => person('person'),
    ],
    [
      'Skin of a person: click',
      'M12 3C7 3 6 8 7 13S10 21 12 21S16 18 17 13S17 3 12 3',
      ({ person }) => person('skin'),
    ],
    [
      'Lips, eyes, brows, teeth',
      'M3 13C7 8 10 9 12 10C14 9 17 8 21 13C17 18 7 18 3 13ZM3 13H21',
      ({ person }) => person('lips'),
    ],
  ],
  controls: PersonControls,
} satisfies PartDescriptor;
