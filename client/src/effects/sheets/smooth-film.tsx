import type { ProjectDocument, Smooth } from '@hastig/contract';
import {
  effectList,
  formatPercent,
  programOf,
  putCamera,
  rateToNumber,
  SEQUENCE,
  smoothedParts,
  sourceFrames,
  sourceRate,
  withCamera,
  type SmoothedPart,
} from '@hastig/core';
import { nanoid } from '@reduxjs/toolkit';
import { useMemo, useState } from 'react';
import { Text, View } from 'react-native';
import { ProjectSheet } from '../../form/project-sheet';
import { useAppSelector } from '../../store/hooks';
import { Button } from '../../ui/button';
import { cameraWords } from '../effect-words';
import { joinedParts, partToAnalyse } from '../tracking/part-to-analyse';
import { useSmoothFields } from '../tracking/use-smooth-fields';
import { useCameraAnalyses, type SourcePart } from '../tracking/use-tracking';
import { WaitingRow } from '../tracking/waiting-row';
import type { ExtentChoice } from '../use-extent';
import { useStretchFields } from '../use-stretch-fields';

interface SmoothFilmProps {
  effect?: string;
  /** Fields that say for which stretch of the film, and what is chosen in them. */
  extent: ExtentChoice;
  onClose(): void;
}

/** Takes the shake out of the cameras of all the film's clips, or of those in a stretch of it: each as an analysis of its source tells. */
export function SmoothFilm({ effect, extent, onClose }: SmoothFilmProps) {
  const project = useAppSelector((state) => state.project.document)!;
  const before = effectList
    .of(project, 'film')
    .find((one): one is Smooth => one.kind === 'smooth' && one.id === effect);
  const id = useMemo(() => effect ?? nanoid(12), [effect]);
  const [cameras, setCameras] = useState<Readonly<Record<string, ProjectDocument['sources'][number]['cameras']>>>({});
  const { fields, over, refused } = useStretchFields(extent, 'film');
  const { fields: settings, chosen } = useSmoothFields(
    before,
    <Text className="font-sans text-[13px] text-quiet">Each clip as in the first frame of it that is shown.</Text>,
  );
  const analysis = useCameraAnalyses(({ source, from }, moves) =>
    setCameras((now) => ({ ...now, [source.id]: withCamera(now[source.id] ?? source.cameras, { from, moves }) })),
  );
  // With what was analysed while the sheet is open.
  const known = useMemo(
    () => ({
      ...project,
      sources: project.sources.map((source) => {
        const told = cameras[source.id];
        return told ? { ...source, cameras: told } : source;
      }),
    }),
    [project, cameras],
  );
  const [stretch, settled] = [JSON.stringify(over), JSON.stringify(chosen)];
  const made = useMemo(
    (): Smooth | undefined =>
      chosen && {
        ...{ id, kind: 'smooth', frame: 0, ...chosen },
        ...(before?.off && { off: true }),
        ...(over && { over }),
      },
    [id, settled, stretch, before?.off],
  );
  const parts = useMemo(
    () => smoothedParts(known, programOf(known, SEQUENCE), { ...whole, ...(over && { over }) }),
    [known, stretch],
  );
  const told = parts.filter((part) => part.told).length;
  const { open, refusals } = useMemo(() => openParts(known, parts), [known, parts]);
  const some = told > 0;
  const edit = useMemo(
    () =>
      made && some
        ? (state: ProjectDocument): ProjectDocument => {
            if (refused) throw refused;
            const analysed = Object.entries(cameras).reduce(
              (now, [sourceId, all = []]) => all.reduce((next, camera) => putCamera(next, sourceId, camera), now),
              state,
            );
            return effectList.put(analysed, 'film', made);
          }
        : undefined,
    [made, some, cameras, refused?.message],
  );
  const busy = analysis.progress !== null;
  return (
    <ProjectSheet
      title="Steady"
      label="steady the film"
      waiting={told > 0 ? 'Enter the seconds to see a preview.' : 'Analyse the cameras to see a preview.'}
      edit={edit}
      onClose={onClose}
      outcome={(_, after) => filmOutcome(after, id)}
    >
      <Text className="font-sans text-[13px] text-quiet">{analysedWords(parts.length, told)}</Text>
      {refusals.map((words) => (
        <Text key={words} className="font-sans text-[13px] text-quiet">
          {words}
        </Text>
      ))}
      {open.length > 0 && !busy ? (
        <View className="flex-row">
          <Button label="Analyse" kind="primary" onPress={() => analysis.begin(open)} />
        </View>
      ) : null}
      <WaitingRow waiting={analysis} label="Analysing the cameras" cancel="Cancel analysis" />
      {busy ? null : fields}
      {settings}
      {extent.needsMarks ? (
        <Text className="font-sans text-[13px] text-quiet">For a part only, mark in and out first.</Text>
      ) : null}
    </ProjectSheet>
  );
}

/** A smoothing of all of the film, whatever its settings. */
const whole: Smooth = { id: 'any', kind: 'smooth', model: 'similarity', frame: 0, edges: 'scale' };

function analysedWords(clips: number, told: number): string {
  if (clips === 0) return 'Nothing of the film is a clip of footage there.';
  const all = clips === 1 ? 'The camera of the one clip is' : `The cameras of all ${clips} clips are`;
  if (told === clips) return `${all} analysed.`;
  return `${told} of ${clips} clips analysed. How a camera moves is told from the picture once and kept with the source; a clip that is not analysed stays as it is.`;
}

/** What is still to be analysed, and what can't be, in words. */
function openParts(
  { sources }: ProjectDocument,
  parts: readonly SmoothedPart[],
): { open: SourcePart[]; refusals: string[] } {
  const open: SourcePart[] = [];
  const refusals: string[] = [];
  for (const source of sources) {
    const its = parts.filter(({ sourceId, told }) => sourceId === source.id && !told);
    const asked = its.map((part) => partToAnalyse(part, sourceFrames(source), rateToNumber(sourceRate(source))));
    const possible = asked.filter((part) => typeof part !== 'string');
    open.push(...joinedParts(possible).map((part) => ({ source, ...part })));
    refusals.push(...asked.filter((part) => typeof part === 'string').map((words) => `${source.name}: ${words}`));
  }
  return { open, refusals: [...new Set(refusals)] };
}

/** What smoothing the film comes to, in a line: of how many clips, how, and how much larger it makes a picture at most. */
function filmOutcome(project: ProjectDocument, id: string): string {
  const film = programOf(project, SEQUENCE);
  const effect = effectList.of(project, 'film').find((one): one is Smooth => one.kind === 'smooth' && one.id === id);
  const items = [film, ...Object.values(film.groups)].flatMap(({ tracks }) => tracks.flatMap((track) => track.items));
  const paths = items.flatMap(({ smoothed }) => film.steadies?.[smoothed?.[id] ?? ''] ?? []);
  const own = items.filter(({ steady, smoothed }) => steady !== undefined && smoothed?.[id] !== undefined).length;
  if (!effect || paths.length === 0) return 'Nothing changes here';
  const most = Math.max(...paths.map(({ times }) => times));
  const clips = `${paths.length} ${paths.length === 1 ? 'clip' : 'clips'}`;
  const kept = own > 0 ? ` ${own} ${own === 1 ? 'keeps its' : 'keep their'} own steadying.` : '';
  return `${clips}: ${cameraWords(effect)}, scaled to ${formatPercent(most)} at most.${kept}`;
}

/** Whether a smoothing of the film has something to do: what one of its clips needs is there. */
export const doesSmooth = (project: ProjectDocument, smooth: Smooth): boolean =>
  smoothedParts(project, programOf(project, SEQUENCE), smooth).some(({ told }) => told);
