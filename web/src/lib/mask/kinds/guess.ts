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
    ['Sky, as guessed', ({ addPart }) => addPart(newPart('guess', { of: 'sky' }))],
    ['Subject, as guessed', ({ addPart }) => addPart(newPart('guess', { of: 'subject' }))],
  ],
  note: (part) => {
    const { of } = part as Guess;
    return `A guess at the ${of}, from how ${HOW[of]}. Look at it in the matte; a brush or an object adds to it or takes away.`;
  },
} satisfies PartDescriptor;
