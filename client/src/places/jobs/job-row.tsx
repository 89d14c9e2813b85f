import type { JobLogLine, ServerJob } from '@hastig/contract';
import ArrowDown from 'lucide-react-native/icons/arrow-down';
import ArrowUp from 'lucide-react-native/icons/arrow-up';
import Download from 'lucide-react-native/icons/download';
import Log from 'lucide-react-native/icons/list';
import Pause from 'lucide-react-native/icons/pause';
import Resume from 'lucide-react-native/icons/play';
import Again from 'lucide-react-native/icons/rotate-ccw';
import Share from 'lucide-react-native/icons/share-2';
import Source from 'lucide-react-native/icons/film';
import Trash from 'lucide-react-native/icons/trash';
import X from 'lucide-react-native/icons/x';
import { useState } from 'react';
import { Text, View } from 'react-native';
import { api, jobFileAddress } from '../../store/api';
import { useAppDispatch } from '../../store/hooks';
import { isOpen } from '../../store/jobs-slice';
import { canShare, changeJob, removeJob, shareJob, openAsSource } from '../../store/server-jobs';
import { IconButton } from '../../ui/button';
import { Progress } from '../../ui/progress';
import { saveFrom } from '../../ui/save-file';
import { jobWords } from './job-words';

const priorities: Readonly<Record<number, string>> = { [-1]: 'Low priority', 1: 'High priority' };

interface JobRowProps {
  job: ServerJob;
  /** Whether a project is open that its file could become a source of. */
  inProject: boolean;
}

/** A job of the server: what, how far, and all that can be done with it. */
export function JobRow({ job, inProject }: JobRowProps) {
  const dispatch = useAppDispatch();
  const [log, setLog] = useState<readonly JobLogLine[] | null>(null);
  const { id, kind, file, project, state, priority, done, total } = job;
  const open = isOpen(job);
  const change = (what: Parameters<typeof changeJob>[1]) => () => void dispatch(changeJob(id, what));
  const first = Math.min(1, priority + 1) as 0 | 1;
  const last = Math.max(-1, priority - 1) as -1 | 0;
  const showLog = async (): Promise<void> => setLog(log ? null : await api.jobLog(id).catch(() => []));
  return (
    <View role="listitem" aria-label={file} className="gap-1 rounded-lg border border-line bg-raised px-3 py-2">
      <View className="flex-row flex-wrap items-center">
        <View className="min-w-[220px] flex-1 gap-0.5">
          <Text numberOfLines={1} className="font-sans text-[15px] text-bone">
            {file}
          </Text>
          <Text className={`font-sans text-[13px] ${state === 'failed' ? 'text-wrong' : 'text-quiet'}`}>
            {[kind === 'convert' ? 'Conversion' : project, priorities[priority]].filter(Boolean).join(' · ')}
          </Text>
          <Text
            role={state === 'failed' ? 'alert' : 'status'}
            className={`font-mono text-[12px] tabular-nums ${state === 'failed' ? 'text-wrong' : 'text-bone'}`}
          >
            {jobWords(job)}
          </Text>
        </View>
        <View className="ml-auto flex-row flex-wrap items-center justify-end">
          {open ? (
            <>
              <IconButton
                label={`Raise priority of ${file}`}
                icon={ArrowUp}
                narrow
                disabled={priority === 1}
                onPress={change({ priority: first })}
              />
              <IconButton
                label={`Lower priority of ${file}`}
                icon={ArrowDown}
                narrow
                disabled={priority === -1}
                onPress={change({ priority: last })}
              />
              {/* What converts goes on to its end. */}
              {state === 'paused' ? (
                <IconButton label={`Resume ${file}`} icon={Resume} narrow onPress={change({ state: 'waiting' })} />
              ) : kind === 'convert' ? null : (
                <IconButton label={`Pause ${file}`} icon={Pause} narrow onPress={change({ state: 'paused' })} />
              )}
            </>
          ) : null}
          {state === 'done' && kind === 'render' ? (
            <>
              <IconButton
                label={`Download ${file}`}
                icon={Download}
                narrow
                onPress={() => saveFrom(jobFileAddress(id))}
              />
              {canShare() ? (
                <IconButton label={`Share ${file}`} icon={Share} narrow onPress={() => void dispatch(shareJob(job))} />
              ) : null}
            </>
          ) : null}
          {state === 'done' && inProject ? (
            <IconButton
              label={`Use ${file} as a source`}
              icon={Source}
              narrow
              onPress={() => void dispatch(openAsSource(job))}
            />
          ) : null}
          {state === 'failed' || state === 'cancelled' ? (
            <IconButton label={`Start ${file} again`} icon={Again} narrow onPress={change({ state: 'waiting' })} />
          ) : null}
          <IconButton
            label={`Log of ${file}`}
            icon={Log}
            narrow
            pressed={log !== null}
            onPress={() => void showLog()}
          />
          {open ? (
            <IconButton label={`Cancel ${file}`} icon={X} narrow onPress={change({ state: 'cancelled' })} />
          ) : (
            <IconButton label={`Delete ${file}`} icon={Trash} narrow onPress={() => void dispatch(removeJob(id))} />
          )}
        </View>
      </View>
      {open ? <Progress label={`Job ${file}`} value={done / total} /> : null}
      {log ? (
        <View role="list" aria-label={`Log of ${file}`} className="gap-0.5 border-t border-line pt-2">
          {log.map(({ at, machine, text }, index) => (
            <Text key={index} role="listitem" className="font-mono text-[12px] text-quiet">
              {[new Date(at).toTimeString().slice(0, 8), machine, text].filter(Boolean).join(' · ')}
            </Text>
          ))}
        </View>
      ) : null}
    </View>
  );
}
