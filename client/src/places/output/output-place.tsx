import type { OutputForm } from '@hastig/contract';
import {
  fileEnding,
  formatFacts,
  formatTime,
  gifFault,
  hasPicture,
  picturePlan,
  presetFault,
  rateToNumber,
  type TimeUnit,
} from '@hastig/core';
import {
  clipOrder,
  contentsOf,
  filmOrder,
  listRenders,
  namePartsFor,
  ordersFor,
  sizeFor,
  spansFor,
  type Order,
  type RangeChoice,
  type StoredRender,
} from '@hastig/engine';
import { useRouter, type Href } from 'expo-router';
import Versions from 'lucide-react-native/icons/git-compare';
import { memo, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { ScrollView, View } from 'react-native';
import { FormFields } from '../../form/form-fields';
import { useEntries } from '../../form/use-entries';
import { useAppDispatch, useAppSelector, useSession } from '../../store/hooks';
import { queueRenders } from '../../store/render-queue';
import { orderRenders } from '../../store/server-jobs';
import { noticeSet } from '../../store/session-slice';
import { openClip, sourceLocations } from '../../store/selectors';
import { canChooseFolder, chooseFolder } from '../../ui/choose-folder';
import { compareAddress } from '../../project/addresses';
import { Button } from '../../ui/button';
import { Later } from '../../ui/later';
import { useStable } from '../../ui/use-stable';
import { FilmCheck } from './check/film-check';
import { formIn, textsOf, type OutputValues } from './form/form-texts';
import { outputFields } from './form/output-fields';
import { Interchange } from './interchange';
import { ServerJobs } from '../jobs/server-jobs';
import { PresetRow } from './preset-row';
import { RenderFoot } from './render-foot';
import { RenderOn, serverFault } from './render-on';
import { codingWords, RenderList } from './render-list';
import { TimingFiles } from './timing-files';
import { useEncodable } from './use-encodable';
import { useEstimate } from './use-estimate';

/** What becomes a file: a clip with all of its timing, or the whole sequence. */
function useRenderTarget(clipId: string | undefined) {
  const project = useAppSelector((state) => state.project.document)!;
  const open = useAppSelector((state) => (clipId ? openClip(state, clipId) : undefined));
  const sources = useAppSelector(sourceLocations);
  const { marks } = useSession('marks');
  return useMemo(() => {
    const from = { sources, marks };
    const of = open ? clipOrder(project, open.clip, { ...from, map: open.map }) : filmOrder(project, from);
    return { of, ...contentsOf(project, of) };
  }, [project, open, sources, marks]);
}

/** The place where a clip, or the sequence, becomes a file. */
export function OutputPlace({ clipId }: { clipId?: string }) {
  const { of, audible, seen } = useRenderTarget(clipId);
  const { program, size } = of;
  const { unit } = useSession('unit');
  const dispatch = useAppDispatch();
  const router = useRouter();
  const projectId = useAppSelector((state) => state.project.id);
  const outcomes = useAppSelector((state) => state.render.outcomes);
  const [renders, setRenders] = useState<StoredRender[]>([]);
  // Fields are made once; what they ask of this device and of what is typed comes later.
  const encoders = useRef<ReturnType<typeof useEncodable>>(undefined);
  const formNow = useRef<OutputForm>({ format: 'mp4' });
  const now = useRef(of);
  now.current = of;
  const entries = useEntries(() =>
    outputFields({
      ...{ name: of.name, size, rate: program.rate, audible, seen },
      marked: () => now.current.marks.from !== null || now.current.marks.to !== null,
      markers: () => now.current.markers.length > 0,
      folders: canChooseFolder(),
      encodable: () => encoders.current,
      nameParts: (texts) =>
        namePartsFor(now.current, formNow.current, spansFor(now.current, texts.range as RangeChoice)[0], 1),
    }),
  );
  const { values, faults, texts } = entries;
  const form = values && formIn(values as OutputValues, texts, audible);
  formNow.current = form ?? formNow.current;
  const { width, height } = sizeFor(formNow.current, size);
  encoders.current = useEncodable({ width, height }, formNow.current.encoder);

  const refresh = useCallback(() => void listRenders().then(setRenders, () => setRenders([])), []);
  // Anew when a render has ended, too.
  useEffect(refresh, [refresh, outcomes]);
  const range = texts.range as RangeChoice;
  const orders = form ? ordersFor(of, form, range, texts.name!) : [];
  const empty = program.length === 0;
  const notOnServer = serverFault(form, asksFolder(form, texts.to));
  const onServer = useAppSelector((state) => state.jobs.onServer) && notOnServer === undefined;
  const fault = form && orderFault(form, orders);

  const start = async (): Promise<void> => {
    if (!form || fault) return;
    const ending = fileEnding(form.format);
    if (onServer) {
      const asked = orders.map(({ name, span }) => ({ file: `${name}.${ending}`, form, span, ...(clipId !== undefined && { clipId }) })); // prettier-ignore
      return void (await dispatch(orderRenders(asked)));
    }
    const wanted = orders.map(({ name, job }) => ({ file: `${name}.${ending}`, job, form }));
    const asks = asksFolder(form, texts.to);
    const folder = asks ? await chooseFolder() : undefined;
    if (asks && !folder) return;
    await dispatch(queueRenders(folder ? wanted.map((one) => ({ ...one, folder })) : wanted));
  };
  const choose = useStable((chosen: OutputForm): void => entries.set(textsOf(chosen, { size, rate: program.rate })));

  // The fields say it too, but may be out of sight.
  const [wrong] = Object.entries(faults).map(([name, words]) => `${entries.specs[name as keyof typeof entries.specs]?.label ?? name} ${words}`); // prettier-ignore
  const what = empty ? 'The timeline is empty.' : form ? (fault ?? whatWords(form, orders, audible, unit)) : '';
  const { words, busy, begin } = useEstimate(JSON.stringify([what, form]));
  const guess = (): void => begin(orders.map(({ job }) => ({ ...job, target: { to: 'storage', name: '' } })));

  return (
    <View className="min-h-0 flex-1">
      <ScrollView className="min-h-0 flex-1" contentContainerClassName="items-center px-4 py-4">
        <View className="w-full max-w-[720px] gap-4">
          <View className="flex-row">
            <Button
              label="Versions and compare"
              icon={Versions}
              onPress={() => router.push(compareAddress(projectId, clipId) as Href)}
            />
          </View>
          <PresetRow form={form} whyNot={(preset) => presetFault(preset.form, { audible, seen })} onChoose={choose} />
          <FormFields {...entries} onChange={(entry, text) => entries.set({ [entry]: text })} />
          <RenderOn form={form} whyNot={notOnServer} />
          <RenderList renders={renders} onChanged={refresh} onSettings={choose} />
          <Later>
            <ServerJobs inProject />
          </Later>
          {clipId ? null : <FilmParts projectId={projectId} />}
        </View>
      </ScrollView>
      <RenderFoot
        {...{ what: wrong ?? what, renders, estimated: words, estimating: busy }}
        empty={empty || !form || orders.length === 0 || fault !== undefined}
        onRender={() =>
          void start().catch((error: Error) => dispatch(noticeSet(`The folder can’t be used: ${error.message}`)))
        }
        onEstimate={guess}
      />
    </View>
  );
}

/** What is about the whole film beside its files. It doesn't hang on what is typed, and is not drawn anew with it. */
const FilmParts = memo(function FilmParts({ projectId }: { projectId: string | null }) {
  return (
    <Later>
      {projectId ? <FilmCheck projectId={projectId} /> : null}
      <TimingFiles />
      <Interchange />
    </Later>
  );
});

/** What files will be, in a line. */
function whatWords(form: OutputForm, orders: readonly Order[], audible: boolean, unit: TimeUnit): string {
  const [first] = orders;
  if (!first) return 'Nothing lies between in and out.';
  const many = orders.length > 1 ? `${orders.length} files: ` : '';
  const coded = codingWords(form, audible && form.sound !== false);
  const { rate } = first.job;
  const frames = orders.reduce((sum, { job }) => sum + picturePlan(job.program, rate, {}, job.span).count, 0);
  return `${many}${coded}: ${hasPicture(form.format) ? `${frames} frames, ` : ''}${formatTime(frames, rate, unit)}`;
}

/** Whether numbered pictures are to go into a folder on this device. */
const asksFolder = (form: OutputForm | undefined, to: string | undefined): boolean =>
  form !== undefined && formatFacts[form.format].kind === 'stills' && to === 'folder';

/** Why files can't be made as they are asked for, in words. */
function orderFault(form: OutputForm, orders: readonly Order[]): string | undefined {
  if (form.format !== 'gif') return undefined;
  const faults = orders.map(({ job }) =>
    gifFault(picturePlan(job.program, job.rate, {}, job.span).count, rateToNumber(job.rate)),
  );
  return faults.find((words) => words !== undefined);
}
