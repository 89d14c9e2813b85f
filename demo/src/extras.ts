/** What the workshop has beside its clips: sound alone and a still. They wait in the footage. */
export const extras = [
  { name: 'chimes', title: 'Chimes', file: 'chimes.wav' },
  { name: 'spoken', title: 'Spoken line', file: 'spoken.wav' },
  { name: 'title', title: 'Title card', file: 'title.png' },
] as const;

/** The spoken line, in the two parts it is said in: it is there to be slowed from the second on. */
export const spokenParts = [
  'The marble leaves the ramp, it falls, and then,',
  'slowly, it lands in the bowl.',
] as const;
/** Samples a second of the spoken line, and the sample at which its second part begins. */
export const SPOKEN_RATE = 22_050;
export const SPOKEN_SLOWLY = 78_144;
