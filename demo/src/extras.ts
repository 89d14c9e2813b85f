/** What the workshop has beside its clips: sound alone and a still. They wait in the footage. */
export const extras = [
  { name: 'chimes', title: 'Chimes', file: 'chimes.wav' },
  { name: 'title', title: 'Title card', file: 'title.png' },
] as const;
