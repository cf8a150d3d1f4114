import compare from './pictures/compare.jpg';
import deliver from './pictures/deliver.jpg';
import find from './pictures/find.jpg';
import key from './pictures/key.jpg';
import proof from './pictures/proof.jpg';
import remedy from './pictures/remedy.jpg';
import sample from './pictures/sample.jpg';
import shoot from './pictures/shoot.jpg';

export interface Task {
  id: string;
  title: string;
  steps: string[];
  picture?: { src: string; alt: string };
}

/** The job in the order of the work. */
export const TASKS: Task[] = [
  {
    id: 'settle',
    title: 'Settle the whole photo',
    steps: [
      'Open a photo from the contact sheet and choose Base at the left.',
      'Set its temperature, exposure and contrast, or click a place that should be neutral.',
      'Leave what a move of the whole photo cannot mend: a move that mends the shadows and spoils the lights is work for a cast.',
    ],
  },
  {
    id: 'find',
    title: 'Find the taints',
    steps: [
      'Choose Look for casts. Each finding says where the light adds a colour, which one, and why it is thought so; its dial shows which way and how far.',
      'Point at a finding to see its place. Adopt it to make a cast of it, or dismiss it.',
      'The map shows the photo drained of its own colours, and the colour that light adds to it.',
      'If it has missed one, show it a tainted place: it answers at once.',
      'When it asks which picture is right, several readings of the light are about as likely: take the one that looks right, or none.',
    ],
    picture: { src: find, alt: 'A finding on the curtain scene, outlined on the photo' },
  },
  {
    id: 'sample',
    title: 'Say what it is and what it should be',
    steps: [
      'Choose Tainted and click a place whose colour does not belong there. Drag to collect a larger one.',
      'Then click its reference: the same material, clean, at about the same lightness. The bench says how far the two are apart in lightness.',
      'Without a clean place choose Neutral, or take a reference from the library, from another photo or from typed values.',
      'Choose Keep and click what must not change, such as lips. It enters the remedy, and the proof tells whether it held.',
    ],
    picture: { src: sample, alt: 'Samples of a shirt, and the next one under the loupe' },
  },
  {
    id: 'mask',
    title: 'Mask loosely, then tighten by colour',
    steps: [
      'Paint, draw an oval, a ramp or a path over the place, or draw loosely round an object: its own edge is found.',
      'Add a colour key to it. The box of each band is masked in full, and its slopes fade out; drag them until the sky, the lips or the other garment drop out.',
      'Change how the mask is shown: hatched, outlined, as a matte, or with only the masked in colour.',
      'Follow edges calms what has become blotchy.',
    ],
    picture: { src: key, alt: 'A brush and a colour key, hatched on the photo' },
  },
  {
    id: 'remedy',
    title: 'Neutralise, a little at a time',
    steps: [
      'Neutralise takes off only as much as each place is tainted. Start modestly; raise the amount until the dial has come near its centre.',
      'Touch amounts shows the light that is taken off. Press where it is too much or too little and drag; near places of the same material follow.',
      'Match serves several pairs at once. Shift, even out and restore help with what is left. Drag the list to change their order.',
      'When the bench says that something looks overdone, the button beside it takes it back.',
    ],
    picture: { src: remedy, alt: 'The remedy and the proof of one cast' },
  },
  {
    id: 'further',
    title: 'Go on in the same mask',
    steps: [
      'Recolour gives a cloth another colour; folds, texture and glints stay. Glaze tints thinly; beside skin, warmth back is offered as a glaze.',
      'Wash is painted: take a tone with its key held, and build it up in thin layers, or make lighter and darker. Every stroke is listed and can be changed or removed.',
      'Zones move shadows, mids and lights each its own way: the green out of the shadows, say, while the lights stay.',
      'Tone sets exposure, contrast and detail in the mask; calm takes noise down to what lies around, and tells both.',
      'By hue moves families of hues, in the plane drags colours with their neighbours, curves bend light, channels and inks; take hold of a colour on the photo.',
      'A new cast may do without samples: it is a mask with remedies, and goes by what it does.',
    ],
  },
  {
    id: 'look',
    title: 'Lay a look, and save the skin from it',
    steps: [
      'Look, in the rail, has eight looks and takes .cube tables; hover over one to try it, click to lay it, set its strength.',
      'What it does to skin, lips and greys is told. Save skin makes a cast after the look that brings the skin’s colour back; so do a place that is clicked, and where a cast is.',
      'A cast acts before the look or after it; its card is dragged across, or the arrow on it carries it.',
      'A .cube table from a file is kept among your looks. Colours out saves base, casts and look, or one cast, as a table, or keeps it as a look, and tells what a table cannot carry.',
    ],
  },
  {
    id: 'people',
    title: 'Work on people',
    steps: [
      'Add part has a person, skin, lips and eyes: click whose it is to be. Skin is learnt from the face, so a cast on both does not matter.',
      'Where a cast moves lips or eyes the proof tells so; one choice keeps both.',
      'After a tainted place on a face is sampled, the same place of its other side and its best lit place are offered as references.',
      'Where the two sides of a face differ and the finder cannot tell which is right, it asks, with both as pictures.',
      'All figures tells the skin of each face: off the line, spread, left against right. Faces are kept with the photo alone, go with it, and are never compared to tell who somebody is.',
    ],
  },
  {
    id: 'compare',
    title: 'Compare, many times',
    steps: [
      'Hold Before to see the untouched photo.',
      'Compare shows two to four states: split, side by side or blinking, with or without one cast; go on with the best.',
      'Versions keep a state under a name, to be flipped through in place.',
    ],
    picture: { src: compare, alt: 'The photo split by a turned divider, untouched and now' },
  },
  {
    id: 'prove',
    title: 'Prove that nothing else moved',
    steps: [
      'The proof tells the distance to the reference, what moved where it was clean, and what moved outside the masks: nothing, by promise.',
      'Click a value to see its pixels. All figures has those of every cast, and the finder’s field before and now.',
      'Sheets opens what a cast would touch anywhere, and the proof sheet to read, print or keep.',
    ],
    picture: { src: proof, alt: 'All figures, and the pixels of one of them on the photo' },
  },
  {
    id: 'shoot',
    title: 'The rest of the shoot',
    steps: [
      'On the contact sheet choose photos by click, Shift, Ctrl, a drawn rectangle or keys; the bar below says what can be done with them. Show only one state, a kind of cast, or words.',
      'Treat what was found takes the findings of each photo, as sure as you say. Treat as carries the casts of a photo that is done to the others: in a series shapes follow their subject, elsewhere they keep their place.',
      'You see every photo before and now, and take all, some or none. Check what says so. On a frame of a series add to the mask or take away; the others are followed anew by it.',
      'Agree on a colour finds a skin, a cloth or a neutral in every photo, and says which is off the rest. Level brings it back, by an ordinary cast.',
      'Copies stay linked: what you change on one can be carried over to the others, except where a photo was touched up.',
      'Looking, treating, proving and making files go on when you leave the page; come back to see how far they are.',
    ],
    picture: { src: shoot, alt: 'The contact sheet, with the casts of every photo' },
  },
  {
    id: 'deliver',
    title: 'Deliver',
    steps: [
      'Choose Deliver, a format and a depth. Profile and metadata are kept, and what no mask reaches keeps its code values exactly.',
      'The menu of a mask’s part saves the mask as a grey picture of 8 or 16 bits, for use elsewhere.',
    ],
    picture: { src: deliver, alt: 'The delivery dialog with its formats' },
  },
];

/** What goes wrong, and what helps. */
export const TROUBLES: [string, string][] = [
  [
    'There is no neutral in the frame',
    'Choose Neutral: it is made from the sample’s own lightness.',
  ],
  [
    'The lips went grey',
    'Keep their colour, or take it out of the mask with a key that is subtracted.',
  ],
  ['Something else changed hue', 'Open what the cast touches, and tighten the key’s hue band.'],
  [
    'The skin looks flat',
    'Take a skin reference instead of a neutral; then Warmth back offers a glaze.',
  ],
  ['The edge of the mask shows', 'Soften the mask, or let it follow edges.'],
  ['A garment of the cast’s colour was found', 'Dismiss the finding: it stays away on this photo.'],
  [
    'It says that work was interrupted',
    'The server was stopped meanwhile. Look at the others, prove the rest, or make the file again: what was done stays.',
  ],
];
