/** What Hastig is used on, for `test.use`: a phone unless told. */
export const devices = {
  phone: { viewport: { width: 390, height: 844 }, hasTouch: true },
  desk: { viewport: { width: 1280, height: 800 }, hasTouch: false },
} as const;
