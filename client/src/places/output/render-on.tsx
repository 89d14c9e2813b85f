import type { OutputForm } from '@hastig/contract';
import { pictureCodingNames, pictureCodingOf } from '@hastig/core';
import { Text, View } from 'react-native';
import { useAppDispatch, useAppSelector } from '../../store/hooks';
import { onServerChosen } from '../../store/jobs-slice';
import { Choice } from '../../ui/choice';
import { noMachineWords } from '../jobs/job-words';
import { useMachines } from '../jobs/use-machines';

/** Why the server can't make files as they are asked for, in words. */
export function serverFault(form: OutputForm | undefined, toFolder: boolean): string | undefined {
  if (toFolder) return 'The server can’t write into a folder on this device: choose a ZIP.';
  return form?.encoder === 'hardware' ? 'The server encodes in software.' : undefined;
}

interface RenderOnProps {
  form: OutputForm | undefined;
  /** Why the server can't. */
  whyNot: string | undefined;
}

/** Where files are made: on this device, while its tab is open, or on the server. */
export function RenderOn({ form, whyNot }: RenderOnProps) {
  const dispatch = useAppDispatch();
  const onServer = useAppSelector((state) => state.jobs.onServer) && whyNot === undefined;
  return (
    <View className="gap-1">
      <Choice
        label="Render on"
        options={[
          { value: 'here', label: 'This device' },
          { value: 'server', label: 'Server' },
        ]}
        value={onServer ? 'server' : 'here'}
        whyNot={(value) => (value === 'server' ? whyNot : undefined)}
        onChange={(value) => dispatch(onServerChosen(value === 'server'))}
      />
      {onServer ? <ServerWords form={form} /> : null}
    </View>
  );
}

function ServerWords({ form }: Pick<RenderOnProps, 'form'>) {
  const { machines, at } = useMachines();
  const coding = form && pictureCodingOf(form);
  const none = noMachineWords(machines, coding && pictureCodingNames[coding], at);
  return (
    <Text role="status" className={`font-sans text-[13px] ${none ? 'text-wrong' : 'text-quiet'}`}>
      {none ?? 'Goes on when this tab is closed. Find the file under Server below.'}
    </Text>
  );
}
