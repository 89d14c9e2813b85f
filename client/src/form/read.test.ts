import { constantSpan, eases, makeRate } from '@hastig/core';
import type { RetimeMap } from '@hastig/contract';
import { initialTexts, readForm, type FormContext } from './read';
import {
  choiceField,
  countField,
  easeField,
  factorField,
  keepsField,
  lengthField,
  onlyWhen,
  rangeField,
  shareField,
  sourceField,
  speedField,
  type Specs,
} from './specs';

const rate = makeRate(24);
const map: RetimeMap = {
  sourceRate: rate,
  outputRate: rate,
  sourceFrames: 200,
  start: 0,
  spans: [constantSpan(1, 50), constantSpan(0.5, 100)],
};
const context: FormContext = {
  map,
  unit: 'frames',
  playhead: 60,
  selected: null,
  marks: { from: null, to: null },
  keeps: 'length',
};

function read(specs: Specs, changes: Record<string, string> = {}, inside: Partial<FormContext> = {}) {
  const here = { ...context, ...inside };
  return readForm(specs, { ...initialTexts(specs, here), ...changes }, here);
}

describe('a form', () => {
  it('starts with the part at the playhead, the selected one, or what is marked', () => {
    const specs = { range: rangeField, keeps: keepsField };
    expect(read(specs).values).toEqual({ range: { from: 50, to: 150, part: 1 }, keeps: 'length' });
    expect(read(specs, {}, { selected: 0 }).values).toMatchObject({ range: { from: 0, to: 50, part: 0 } });
    expect(read(specs, {}, { marks: { from: 20, to: null } }).values).toMatchObject({ range: { from: 20, to: 150 } });
    expect(read(specs, { range: 'clip' }).values).toMatchObject({ range: { from: 0, to: 150 } });
  });

  it('reads a typed range in the unit that is shown, and says which end is wrong', () => {
    const specs = { range: rangeField };
    const typed = { range: 'typed', 'range:from': '11', 'range:to': '2s' };
    expect(read(specs, typed, { unit: 'frames-from-1' }).values).toMatchObject({ range: { from: 10, to: 48 } });
    expect(read(specs, { ...typed, 'range:to': '900' }).faults).toEqual({
      'range:to': 'is outside the clip, which is 150 frames long',
    });
  });

  it.each([
    [speedField('Speed', '1'), 'abc', /isn’t valid/],
    [factorField('Times', '1'), '-0', /more than 0/],
    [lengthField('Lasts', '1', rate, 'frames'), '0', /more than 0/],
    [lengthField('Edges', '1', rate, 'frames', 0), '-1', /less than 0/],
    [countField('Every', '2', 2), '1', /at least 2/],
    [countField('Every', '2', 2), '1e309', /isn’t a frame number/],
    [shareField('Share', '40%'), '100', /between 0% and 100%/],
    [sourceField('Source', '0', 'frames'), '', /empty/],
  ])('says what is wrong with a number: %j', (spec, text, reason) => {
    const { values, faults } = read({ it: spec }, { it: text });
    expect(values).toBeUndefined();
    expect(faults['it']).toMatch(reason);
  });

  it('does not mind what stands in a field that is not there', () => {
    const specs = {
      by: choiceField('By', 'a', [
        { value: 'a', label: 'A' },
        { value: 'b', label: 'B' },
      ]),
      frames: onlyWhen(lengthField('Frames', '5', rate, 'frames'), 'by', 'b'),
    };
    expect(read(specs, { frames: 'abc' }).values).toEqual({ by: 'a', frames: 5 });
    expect(read(specs, { by: 'b', frames: 'abc' }).values).toBeUndefined();
  });

  it('reads an ease by its name, its handles, or in frames, symmetric or not', () => {
    const specs = { ease: easeField('ease-in', 20) };
    expect(read(specs).values).toEqual({ ease: eases['ease-in'] });
    expect(read(specs, { ease: 'own', 'ease:x1': '0,1' }).values).toEqual({ ease: [0.1, 0, 0.58, 1] });
    expect(read(specs, { ease: 'own', 'ease:x2': '2' }).faults).toEqual({ 'ease:x2': 'must be between 0 and 1' });
    const frames = { ease: 'frames', 'ease:start': '5', 'ease:end': '10' };
    expect(read(specs, frames).values).toEqual({ ease: [0.25, 0, 0.75, 1] });
    expect(read(specs, { ...frames, 'ease:even': 'uneven' }).values).toEqual({ ease: [0.25, 0, 0.5, 1] });
  });
});
