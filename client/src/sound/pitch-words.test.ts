import { plainSound } from '@hastig/core';
import { decibelWords, pitchWords, roughWords, shiftWords, shortPitchWords } from './pitch-words';

it('says what is decided about a pitch', () => {
  expect(pitchWords(plainSound)).toBe('Pitch follows');
  expect(pitchWords({ ...plainSound, pitch: 'kept', cents: 300 })).toBe('Pitch kept, +3 st');
  expect(shortPitchWords({ ...plainSound, pitch: 'kept', cents: 300 })).toBe('Kept, +3 st');
  expect(pitchWords({ ...plainSound, pitch: 'kept', cents: -50, formants: 'kept' })).toBe(
    'Pitch kept, −50 ct, formants kept',
  );
});

it('says a shift in semitones where it is whole ones', () => {
  expect(shiftWords(-1200)).toBe('−12 st');
  expect(shiftWords(133.33)).toBe('+133.3 ct');
});

it('says where a kept pitch sounds rough', () => {
  expect(roughWords([1, 0, -0.5, 8])).toBeUndefined();
  expect(roughWords([1, -12])).toContain('above 800%');
  expect(roughWords([0.05, 9])).toContain('below 10% and above 800%');
});

it('says levels with a sign', () => {
  expect([6, -3.04, 0, -Infinity].map(decibelWords)).toEqual(['+6.0', '−3.0', '0.0', '−∞']);
});
