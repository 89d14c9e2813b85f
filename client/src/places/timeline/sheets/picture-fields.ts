import type { PictureSettings } from '@hastig/contract';
import { formatPercent, trimDecimals } from '@hastig/core';
import { choiceField, factorField, numberField, percentField, type Texts, type Values } from '../../../form/specs';

/** Most of a side that can be cropped, so that something is always left. */
const MOST_CROPPED = 0.99;

/** The fields of picture settings, filled in with some. */
export function pictureFields(settings: PictureSettings) {
  const texts = pictureTexts(settings) as Record<keyof ReturnType<typeof textsOf>, string>;
  return {
    fit: choiceField('Fit', settings.fit, [
      { value: 'whole', label: 'Whole picture' },
      { value: 'fill', label: 'Fill frame' },
      { value: 'pixels', label: 'Actual pixels' },
    ]),
    scale: factorField('Scale', texts.scale),
    opacity: percentField('Opacity', texts.opacity, 0, 1),
    x: percentField('Position X', texts.x, -10, 10),
    y: percentField('Position Y', texts.y, -10, 10),
    turn: numberField('Rotation', texts.turn, -360, 360, 'degrees, clockwise'),
    mirror: choiceField('Flip', settings.mirror, [
      { value: 'none', label: 'None' },
      { value: 'across', label: 'Horizontal' },
      { value: 'down', label: 'Vertical' },
      { value: 'both', label: 'Both' },
    ]),
    left: percentField('Crop left', texts.left, 0, MOST_CROPPED),
    right: percentField('Crop right', texts.right, 0, MOST_CROPPED),
    top: percentField('Crop top', texts.top, 0, MOST_CROPPED),
    bottom: percentField('Crop bottom', texts.bottom, 0, MOST_CROPPED),
  };
}

const textsOf = ({ fit, scale, x, y, turn, mirror, crop, opacity }: Partial<PictureSettings>) => ({
  ...(fit && { fit }),
  ...(mirror && { mirror }),
  ...(scale !== undefined && { scale: formatPercent(scale) }),
  ...(opacity !== undefined && { opacity: formatPercent(opacity) }),
  ...(x !== undefined && { x: formatPercent(x) }),
  ...(y !== undefined && { y: formatPercent(y) }),
  ...(turn !== undefined && { turn: trimDecimals(turn, 2) }),
  ...(crop && {
    left: formatPercent(crop.left),
    right: formatPercent(crop.right),
    top: formatPercent(crop.top),
    bottom: formatPercent(crop.bottom),
  }),
});

/** What stands in the fields for some settings. */
export function pictureTexts(settings: Partial<PictureSettings>): Texts {
  return textsOf(settings);
}

/** The settings that fields say. */
export function settingsFrom(values: Values<ReturnType<typeof pictureFields>>): PictureSettings {
  const { left, right, top, bottom, ...rest } = values;
  return { ...rest, crop: { left, top, right, bottom } };
}
