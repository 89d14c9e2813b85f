import type { PictureSettings } from '@hastig/contract';
import { makeRate, plainPicture } from '@hastig/core';
import { initialTexts, readForm, type FormContext } from '../../../form/read';
import { pictureFields, pictureTexts, settingsFrom } from './picture-fields';

const rate = makeRate(24);
const context: FormContext = {
  map: { sourceRate: rate, outputRate: rate, sourceFrames: 1, start: 0, spans: [] },
  unit: 'frames',
  playhead: 0,
  selected: null,
  marks: { from: null, to: null },
  keeps: 'content',
};

const throughFields = (settings: PictureSettings): PictureSettings => {
  const specs = pictureFields(settings);
  return settingsFrom(readForm(specs, initialTexts(specs, context), context).values!);
};

describe('fields of a picture', () => {
  it('say the settings they are filled in with', () => {
    const settings: PictureSettings = {
      fit: 'fill',
      scale: 0.355,
      x: -0.1234,
      y: 2,
      turn: -12.25,
      mirror: 'down',
      crop: { left: 0.1, top: 0, right: 0.25, bottom: 0.99 },
      opacity: 0,
    };
    expect(throughFields(settings)).toEqual(settings);
    expect(throughFields(plainPicture)).toEqual(plainPicture);
  });

  it('are filled in with what changes only', () => {
    expect(pictureTexts({ x: 0.25, y: -0.5 })).toEqual({ x: '25%', y: '-50%' });
    expect(pictureTexts({ crop: plainPicture.crop })).toEqual({ left: '0%', right: '0%', top: '0%', bottom: '0%' });
  });
});
