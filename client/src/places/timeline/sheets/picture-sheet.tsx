import type { PictureSettings } from '@hastig/contract';
import {
  findClip,
  frameSize,
  liesAt,
  pictureCorners,
  pictureSize,
  placedAt,
  plainPicture,
  setPicture,
  type PicturePlace,
} from '@hastig/core';
import { useMemo, useRef, useState } from 'react';
import { FormFields } from '../../../form/form-fields';
import { initialTexts, readForm } from '../../../form/read';
import { usePutGrip, type StageGrip } from '../../../stage/grip-context';
import { useAppSelector, useSession } from '../../../store/hooks';
import { Button } from '../../../ui/button';
import { Choice } from '../../../ui/choice';
import { pictureFields, pictureTexts, settingsFrom } from './picture-fields';
import { useFormContext } from './project-form';
import { ProjectSheet } from './project-sheet';

const places: readonly { value: string; label: string; place: PicturePlace }[] = [
  { value: 'middle', label: 'Middle', place: { across: 0, down: 0 } },
  { value: 'upper-left', label: 'Upper left', place: { across: -1, down: -1 } },
  { value: 'upper-right', label: 'Upper right', place: { across: 1, down: -1 } },
  { value: 'lower-left', label: 'Lower left', place: { across: -1, down: 1 } },
  { value: 'lower-right', label: 'Lower right', place: { across: 1, down: 1 } },
];

/** Share of the frame within which a picture that is dragged comes to rest in the middle. */
const CATCH = 0.015;
const caught = (share: number): number => (Math.abs(share) < CATCH ? 0 : share);

const within = (value: number, low: number, high: number): number => Math.min(high, Math.max(low, value));

/** How the pictures of some clips lie in the frame: by numbers, by places, and by hand on the stage. */
export function PictureSheet({ clipIds, onClose }: { clipIds: readonly string[]; onClose(): void }) {
  const project = useAppSelector((state) => state.project.document)!;
  const first = findClip(project, clipIds[0]!)!;
  const context = useFormContext(first.id);
  const [specs] = useState(() => pictureFields(first.picture ?? plainPicture));
  const [wished, setWished] = useState('middle');
  const [texts, setTexts] = useState(() => initialTexts(specs, context));
  const { values, faults } = readForm(specs, texts, context);
  const key = values && JSON.stringify(values);
  // By what they say: the same numbers are the same settings.
  const settings = useMemo(() => (values ? settingsFrom(values) : undefined), [key]);
  const ids = clipIds.join(' ');
  const edit = useMemo(
    () => (settings ? (now: typeof project) => setPicture(now, clipIds, settings) : undefined),
    [settings, ids],
  );
  const [picture, frame] = [pictureSize(project, first), frameSize(project)];
  const take = (change: Partial<PictureSettings>): void => setTexts((now) => ({ ...now, ...pictureTexts(change) }));

  const moveTo = (x: number, y: number): void => take({ x: within(x, -10, 10), y: within(y, -10, 10) });

  const { snap } = useSession('snap');
  const held = useRef(plainPicture);
  const now = useRef(settings);
  now.current = settings;
  const grip = useMemo<StageGrip | null>(() => {
    if (!settings) return null;
    return {
      label: `Picture of ${first.name}`,
      corners: pictureCorners(settings, picture, frame).map(({ x, y }) => ({
        x: x / frame.width,
        y: y / frame.height,
      })),
      hold: () => (held.current = now.current ?? plainPicture),
      drag: (x, y, free) => {
        const rest = snap && !free ? caught : (share: number) => share;
        moveTo(rest(held.current.x + x), rest(held.current.y + y));
      },
      step: (x, y) => moveTo(held.current.x + x, held.current.y + y),
      scale: (factor) => take({ scale: within(held.current.scale * factor, 0.01, 100) }),
    };
  }, [settings, first.name, picture.width, picture.height, frame.width, frame.height, snap]);
  usePutGrip(grip);

  // What is used most stands where a thumb need not scroll for it.
  const { scale, opacity, ...rest } = specs;
  const size = { scale, opacity };
  // Where all places are the same, as for a picture that fills the frame, it is the one that was chosen.
  const lies = settings && places.filter((one) => liesAt(settings, picture, frame, one.place));
  const place = lies?.find(({ value }) => value === wished) ?? lies?.[0];
  const onChange = (name: string, text: string): void => {
    const next = { ...texts, [name]: text };
    const { values: typed } = readForm(specs, next, context);
    // What lies in a corner stays in it while its size changes.
    const follows = typed && place && name !== 'x' && name !== 'y';
    const moved = follows ? placedAt(settingsFrom(typed), picture, frame, place.place) : undefined;
    setTexts({ ...next, ...(moved && pictureTexts({ x: moved.x, y: moved.y })) });
  };
  const form = { texts, faults, onChange };
  return (
    <ProjectSheet
      title={clipIds.length === 1 ? `Picture of ${first.name}` : `Picture of ${clipIds.length} clips`}
      label="set how a picture lies"
      edit={edit}
      onClose={onClose}
      outcome={() => 'Drag the picture on the stage; two fingers or the wheel change its size'}
    >
      <FormFields specs={size} {...form} />
      <Choice
        label="Place"
        value={place?.value ?? ''}
        onChange={(value) => {
          const chosen = places.find((one) => one.value === value)!;
          setWished(value);
          if (settings) take(placedAt(settings, picture, frame, chosen.place));
        }}
        options={places}
      />
      <FormFields specs={rest} {...form} />
      <Button label="Set back" onPress={() => take(plainPicture)} />
    </ProjectSheet>
  );
}
