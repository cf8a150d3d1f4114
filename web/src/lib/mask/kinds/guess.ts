import type { Guess } from '../../api/types';
import { newPart } from '../../recipe/kinds';
import type { PartDescriptor } from '../descriptor';

const HOW = {
  sky: 'calm and blue or bright it is, from the upper rim down',
  subject: 'far its colours stand off from the rim of the photo',
};

export default {
  kind: 'guess',
  order: 70,
  adding: [
    [
      'Sky, as guessed',
      'M3 15C7 11 11 17 21 12M17 6A2 2 0 1 0 17 6.1M5 7H10M7 4V10',
      ({ addPart }) => addPart(newPart('guess', { of: 'sky' })),
    ],
    [
      'Subject, as guessed',
      'M12 4A4 4 0 1 0 12 12A4 4 0 1 0 12 4M4 21C5 15 19 15 20 21',
      ({ addPart, person }) => person('person', () => addPart(newPart('guess', { of: 'subject' }))),
    ],
  ],
  note: (part) => {
    const { of } = part as Guess;
    return `A guess at the ${of}, from how ${HOW[of]}. Look at it in the matte; a brush or an object adds to it or takes away.`;
  },
} satisfies PartDescriptor;
