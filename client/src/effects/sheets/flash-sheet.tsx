import type { Flash, FlashCurve } from '@hastig/contract';
import { MOST_STOPS } from '@hastig/contract';
import {
  addFlashes,
  contentMarkers,
  EditRefused,
  effectList,
  filmCuts,
  findClip,
  FLASH_BEFORE,
  FLASH_FRAMES,
  flashAt,
  formatPercent,
  markersOver,
  peakOf,
  SEQUENCE,
  trimDecimals,
  type FlashKind,
  type FlashLength,
  type PictureOwner,
} from '@hastig/core';
import { nanoid } from '@reduxjs/toolkit';
import { PlainForm } from '../../form/project-form';
import { choiceField, countField, numberField, onlyWhen, percentField } from '../../form/specs';
import { useAppSelector, useSession } from '../../store/hooks';
import { colourNames, curveOptions, effectWords } from '../effect-words';

type At = 'playhead' | 'cuts' | 'markers';
type Put = 'stays' | 'move' | 'copy';
type Colour = 'white' | 'black' | 'other';

interface FlashSheetProps {
  /** Whose it is: a clip's, by its id, or the film's. */
  owner: string | 'film';
  /** The one that is open, by its id; new ones where it is not told. */
  effect?: string;
  /** Frames of whose it is that lie before what is on the stage. */
  shift?: number;
  onClose(): void;
}

/** Frames at which flashes may be put: of the film's cuts and markers, or of a clip's markers; between in and out where these are marked. */
function usePlaces(owner: string | 'film'): Record<Exclude<At, 'playhead'>, number[]> {
  const project = useAppSelector((state) => state.project.document)!;
  const { marks } = useSession('marks');
  const within = (at: number): boolean => at >= (marks.from ?? 0) && at < (marks.to ?? Infinity);
  const clip = owner === 'film' ? undefined : findClip(project, owner);
  const markers = clip ? contentMarkers(project, clip) : markersOver(project, SEQUENCE);
  const frames = markers.map(({ at }) => Math.round(at)).filter(within);
  return {
    cuts: clip ? [] : filmCuts(project).filter(within),
    markers: [...new Set(frames)].sort((a, b) => a - b),
  };
}

const colourOf = (flash: Flash | undefined): Colour =>
  ((flash ? colourNames[flash.colour] : 'white') as Colour | undefined) ?? 'other';

const HEX = /^#?([0-9a-f]{6})$/i;
const hexOf = (text: string): string | undefined => HEX.exec(text.trim())?.[1]?.toLowerCase();

/** Light that comes and goes at cuts, markers or the playhead: of the film, or of a clip. */
export function FlashSheet({ owner, effect, shift = 0, onClose }: FlashSheetProps) {
  const project = useAppSelector((state) => state.project.document)!;
  const { playhead: shown } = useSession('playhead');
  const playhead = shown + shift;
  const before = effectList.of(project, owner).find((one): one is Flash => one.kind === 'flash' && one.id === effect);
  const places = usePlaces(owner);
  const whose: PictureOwner = owner === 'film' ? 'film' : { clips: [owner] };
  const frames = (at: At): number[] => (at === 'playhead' ? [playhead] : places[at]);
  const many = (name: string, list: readonly number[]): string => `${name} (${list.length})`;
  const length = before ? before.over.to - before.over.from : FLASH_FRAMES;
  return (
    <PlainForm
      title={before ? 'Flash' : 'Add flash'}
      label={before ? 'change a flash' : 'add flashes'}
      onClose={onClose}
      fields={() => ({
        at: {
          ...choiceField<At>('At', 'playhead', [
            { value: 'playhead', label: 'Playhead' },
            ...(places.cuts.length > 0 ? [{ value: 'cuts' as const, label: many('Cuts', places.cuts) }] : []),
            ...(places.markers.length > 0
              ? [{ value: 'markers' as const, label: many('Markers', places.markers) }]
              : []),
          ]),
          when: () => !before && places.cuts.length + places.markers.length > 0,
        },
        put: {
          ...choiceField<Put>('Place', 'stays', [
            { value: 'stays', label: 'Where it is' },
            { value: 'move', label: 'Move to playhead' },
            { value: 'copy', label: 'Copy to playhead' },
          ]),
          when: () => !!before,
        },
        way: choiceField<Flash['way']>('Kind', before?.way ?? 'light', [
          { value: 'light', label: 'Exposure' },
          { value: 'dip', label: 'Dip to colour' },
        ]),
        stops: onlyWhen(
          numberField(
            'Strength (stops)',
            trimDecimals(before?.way === 'light' ? before.strength : 3, 2),
            0,
            MOST_STOPS,
          ),
          'way',
          'light',
        ),
        share: onlyWhen(
          percentField('Strength', formatPercent(before?.way === 'dip' ? before.strength : 1), 0, 1),
          'way',
          'dip',
        ),
        colour: choiceField<Colour>('Colour', colourOf(before), [
          { value: 'white', label: 'White' },
          { value: 'black', label: 'Black' },
          { value: 'other', label: 'Other' },
        ]),
        hex: onlyWhen(
          {
            kind: 'words' as const,
            label: 'Colour (RRGGBB)',
            initial: before?.colour ?? '#ffd9a0',
            fault: (text: string) => (hexOf(text) ? undefined : 'isn’t a colour: type six digits such as ffd9a0'),
          },
          'colour',
          'other',
        ),
        curve: choiceField<FlashCurve>('Curve', before?.curve ?? 'smooth', curveOptions),
        frames: countField('Duration (frames)', String(Math.max(1, Math.round(length))), 1),
        lead: countField('Frames before the peak', String(Math.round(before?.peak ?? FLASH_BEFORE)), 0),
      })}
      edit={({ at, put, way, stops, share, colour, hex, curve, frames: long, lead }) =>
        (state) => {
          if (way === 'light' && colour === 'black')
            throw new EditRefused('colour', 'Black light adds nothing. Choose another colour, or a dip.');
          const tint = colour === 'white' ? '#ffffff' : colour === 'black' ? '#000000' : `#${hexOf(hex)}`;
          const kind: FlashKind = { way, colour: tint, curve, strength: way === 'light' ? stops : share };
          const lasts: FlashLength = { length: long, before: lead };
          if (!before) return addFlashes(state, whose, frames(at), kind, lasts, () => nanoid(12));
          const flash = flashAt(
            put === 'copy' ? nanoid(12) : before.id,
            put === 'stays' ? peakOf(before) : playhead,
            kind,
            lasts,
          );
          // What stays with the content goes on doing so.
          const stays = put === 'stays' && before.over.by === 'source';
          const over = stays ? { ...flash.over, by: 'source' as const } : flash.over;
          return effectList.put(state, whose, { ...flash, over, ...(before.off && { off: true }) });
        }}
      outcome={(_, after) => {
        const now = effectList.of(after, owner).filter((one) => one.kind === 'flash');
        const last = now.find((one) => one.id === effect) ?? now.at(-1);
        return last ? `${effectWords(last)}. Flashes here: ${now.length}` : 'Nothing changes here';
      }}
    />
  );
}
