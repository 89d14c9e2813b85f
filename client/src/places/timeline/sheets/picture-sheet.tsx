import type { KeyedSetting, PictureSettings, RetimeMap } from '@hastig/contract';
import {
  findClip,
  frameSize,
  liesAt,
  mapOf,
  momentAt,
  pictureCorners,
  pictureKeys,
  pictureSize,
  placedAt,
  placeOf,
  plainPicture,
  setPicture,
  type ClipMoment,
  type PicturePlace,
} from '@hastig/core';
import { useEffect, useMemo, useRef, useState } from 'react';
import { FormFields } from '../../../form/form-fields';
import { readForm } from '../../../form/read';
import { useEntries } from '../../../form/use-entries';
import { usePutGrip, type StageGrip } from '../../../stage/grip-context';
import { useStage } from '../../../stage/stage-context';
import { useAppSelector, useSession } from '../../../store/hooks';
import { Button } from '../../../ui/button';
import { Choice } from '../../../ui/choice';
import { pictureFields, pictureTexts, settingsFrom } from './picture-fields';
import { useFormContext } from '../../../form/project-form';
import { ProjectSheet } from '../../../form/project-sheet';
import { SettingKeys } from '../../../keys/setting-keys';

const places: readonly { value: string; label: string; place: PicturePlace }[] = [
  { value: 'middle', label: 'Centre', place: { across: 0, down: 0 } },
  { value: 'upper-left', label: 'Top left', place: { across: -1, down: -1 } },
  { value: 'upper-right', label: 'Top right', place: { across: 1, down: -1 } },
  { value: 'lower-left', label: 'Bottom left', place: { across: -1, down: 1 } },
  { value: 'lower-right', label: 'Bottom right', place: { across: 1, down: 1 } },
];

/** What may change over time; a place is two numbers that change together. */
const groups: readonly { value: string; label: string; names: readonly KeyedSetting[] }[] = [
  { value: 'position', label: 'Position', names: ['x', 'y'] },
  { value: 'scale', label: 'Scale', names: ['scale'] },
  { value: 'turn', label: 'Rotation', names: ['turn'] },
  { value: 'opacity', label: 'Opacity', names: ['opacity'] },
];

/** Share of the frame within which a picture that is dragged comes to rest in the middle. */
const CATCH = 0.015;
const caught = (share: number): number => (Math.abs(share) < CATCH ? 0 : share);

const within = (value: number, low: number, high: number): number => Math.min(high, Math.max(low, value));

/** The moment at an output time of a clip's map; the same one until it is another. */
const useMoment = (map: RetimeMap, at: number): ClipMoment => useMemo(() => momentAt(map, at), [map, at]);

/** How the pictures of some clips lie in the frame: by numbers, by places, by hand on the stage, and with keys over time. */
export function PictureSheet({ clipIds, onClose }: { clipIds: readonly string[]; onClose(): void }) {
  const project = useAppSelector((state) => state.project.document)!;
  const first = findClip(project, clipIds[0]!)!;
  const context = useFormContext(first.id);
  const map = mapOf(project, first);
  const { seek } = useStage();
  // Of the clip's own timing, within what is seen of it.
  const place = placeOf(project, first.id);
  const shift = place ? first.shown.from - place.from : 0;
  const playhead = useAppSelector((state) => state.session.playhead);
  const last = first.shown.from + first.shown.frames - 1;
  const at = Math.min(last, Math.max(first.shown.from, playhead + shift));
  const outside = at !== playhead + shift;
  const moment = useMoment(map, at);

  const [all, setAll] = useState<PictureSettings>(first.picture ?? plainPicture);
  const settings = useMemo(() => pictureKeys.now(all, moment), [all, moment]);
  const [wished, setWished] = useState('middle');
  const { specs, texts, values, faults, set } = useEntries(() => pictureFields(settings), context);
  const valid = values !== undefined;
  const ids = clipIds.join(' ');
  const edit = useMemo(
    () => (valid ? (now: typeof project) => setPicture(now, clipIds, all) : undefined),
    [valid, all, ids],
  );
  const [picture, frame] = [pictureSize(project, first), frameSize(project)];
  // What has keys is shown as it is at the playhead.
  useEffect(() => {
    if (all.keys) set(pictureTexts(settings));
  }, [at]);
  const take = (change: Partial<PictureSettings>): void => {
    const { keys: _keys, ...rest } = change;
    setAll((now) => pictureKeys.atMoment(now, rest, moment));
    set(pictureTexts(rest));
  };
  const takeKeys = (next: PictureSettings): void => {
    setAll(next);
    set(pictureTexts(pictureKeys.now(next, moment)));
  };

  const moveTo = (x: number, y: number): void => take({ x: within(x, -10, 10), y: within(y, -10, 10) });

  const { snap } = useSession('snap');
  const held = useRef(plainPicture);
  const now = useRef(settings);
  now.current = settings;
  const grip = useMemo<StageGrip | null>(() => {
    return {
      label: `Framing of ${first.name}`,
      corners: pictureCorners(settings, picture, frame).map(({ x, y }) => ({
        x: x / frame.width,
        y: y / frame.height,
      })),
      hold: () => (held.current = now.current),
      drag: (x, y, free) => {
        const rest = snap && !free ? caught : (share: number) => share;
        moveTo(rest(held.current.x + x), rest(held.current.y + y));
      },
      step: (x, y) => moveTo(held.current.x + x, held.current.y + y),
      scale: (factor) => take({ scale: within(held.current.scale * factor, 0.01, 100) }),
    };
  }, [settings, moment, first.name, picture.width, picture.height, frame.width, frame.height, snap]);
  usePutGrip(grip);

  // What is used most stands where a thumb need not scroll for it.
  const { scale, opacity, ...rest } = specs;
  const size = { scale, opacity };
  // Where all places are the same, as for a picture that fills the frame, it is the one that was chosen.
  const lies = places.filter((one) => liesAt(settings, picture, frame, one.place));
  const corner = lies.find(({ value }) => value === wished) ?? lies[0];
  const onChange = (name: string, text: string): void => {
    const next = { ...texts, [name]: text };
    const { values: typed } = readForm(specs, next, context);
    set({ [name]: text });
    if (!typed) return;
    const wanted = settingsFrom(typed);
    // What lies in a corner stays in it while its size changes.
    const stays = corner && name !== 'x' && name !== 'y';
    const moved = stays ? placedAt(wanted, picture, frame, corner.place) : wanted;
    const follows = stays && Math.hypot(moved.x - settings.x, moved.y - settings.y) > 1e-9;
    const setting = (name in settings ? name : 'crop') as keyof typeof moved;
    const change = { [setting]: moved[setting], ...(follows && { x: moved.x, y: moved.y }) };
    setAll((now) => pictureKeys.atMoment(now, change, moment));
    if (follows) set(pictureTexts({ x: moved.x, y: moved.y }));
  };
  const form = { texts, faults, onChange };
  return (
    <ProjectSheet
      title={clipIds.length === 1 ? `Framing of ${first.name}` : `Framing of ${clipIds.length} clips`}
      label="change framing"
      edit={edit}
      onClose={onClose}
      outcome={() => 'Drag the picture on the stage; pinch or use the wheel to scale'}
    >
      <FormFields specs={size} {...form} />
      <Choice
        label="Position"
        value={corner?.value ?? ''}
        onChange={(value) => {
          const chosen = places.find((one) => one.value === value)!;
          setWished(value);
          const { x, y } = placedAt(settings, picture, frame, chosen.place);
          take({ x, y });
        }}
        options={places}
      />
      {clipIds.length === 1 ? (
        <SettingKeys
          tools={pictureKeys}
          groups={groups}
          settings={all}
          map={map}
          at={at}
          outside={outside}
          onChange={takeKeys}
          onGo={(output) => seek(output - shift)}
        />
      ) : null}
      <FormFields specs={rest} {...form} />
      <Button label="Reset" onPress={() => takeKeys(plainPicture)} />
    </ProjectSheet>
  );
}
