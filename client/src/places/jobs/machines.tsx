import type { Machine } from '@hastig/contract';
import Copy from 'lucide-react-native/icons/copy';
import Plus from 'lucide-react-native/icons/plus';
import Trash from 'lucide-react-native/icons/trash';
import { useEffect, useState } from 'react';
import { Text, View } from 'react-native';
import { api } from '../../store/api';
import { useAppDispatch } from '../../store/hooks';
import { noticeSet } from '../../store/session-slice';
import { Button, IconButton } from '../../ui/button';
import { Field } from '../../ui/field';
import { machineWords } from './job-words';
import { useMachines } from './use-machines';

/** Machines that help: what they can, when they were heard, how fast they are; each is let in and put out here. */
export function Machines() {
  const dispatch = useAppDispatch();
  const { machines, at, refresh } = useMachines();
  const [adding, setAdding] = useState<string | null>(null);
  const [added, setAdded] = useState<{ name: string; secret: string } | null>(null);
  const say = (error: Error): void => void dispatch(noticeSet(error.message));
  const add = async (): Promise<void> => {
    const name = adding?.trim();
    if (!name) return;
    const { key } = await api.addMachine({ name });
    setAdded({ name, secret: key });
    setAdding(null);
    refresh();
  };
  const remove = ({ id }: Machine): void => void api.removeMachine(id).then(refresh, say);
  return (
    <View role="group" aria-label="Machines" className="gap-2">
      <Text role="heading" aria-level={3} className="font-medium text-[15px] text-bone">
        Machines
      </Text>
      <View role="list" aria-label="Machines that help" className="gap-1">
        {machines?.map((machine) => (
          <View
            key={machine.id}
            role="listitem"
            aria-label={machine.name}
            className="flex-row items-center gap-2 rounded-lg border border-line bg-raised pl-3"
          >
            <View className="min-w-0 flex-1 py-2">
              <Text className="font-sans text-[15px] text-bone">{machine.name}</Text>
              <Text className="font-sans text-[13px] text-quiet">{machineWords(machine, at)}</Text>
            </View>
            <IconButton label={`Remove ${machine.name}`} icon={Trash} narrow onPress={() => remove(machine)} />
          </View>
        ))}
      </View>
      {adding === null ? (
        <View className="flex-row flex-wrap items-center gap-2">
          <Button label="Add machine" icon={Plus} onPress={() => setAdding('')} />
        </View>
      ) : (
        <View className="flex-row items-end gap-2">
          <Field
            label="Machine name"
            value={adding}
            words
            atOnce
            onChange={setAdding}
            onSubmit={() => void add().catch(say)}
          />
          <Button label="Add" disabled={adding.trim() === ''} onPress={() => void add().catch(say)} />
          <Button label="Cancel" kind="quiet" onPress={() => setAdding(null)} />
        </View>
      )}
      {added ? <KeyOf {...added} onClose={() => setAdded(null)} /> : null}
      <AtOnce />
    </View>
  );
}

/** The key of a machine that was let in, which is told this once, and how it is used. */
function KeyOf({ name, secret, onClose }: { name: string; secret: string; onClose(): void }) {
  const command = `npm run worker -- --server ${globalThis.location.origin} --key ${secret}`;
  return (
    <View role="group" aria-label={`Key of ${name}`} className="gap-2 rounded-lg border border-line bg-ink p-3">
      <Text className="font-sans text-[14px] text-bone">
        {`Run this in Hastig’s folder on ${name}. The key is shown only now.`}
      </Text>
      <Text selectable className="font-mono text-[12px] text-bone">
        {command}
      </Text>
      <Text className="font-sans text-[13px] text-quiet">
        From another computer, start the server with HASTIG_WORKERS=0.0.0.0:4871 and use its address with that port.
      </Text>
      <View className="flex-row flex-wrap gap-2">
        <Button label="Copy command" icon={Copy} onPress={() => void navigator.clipboard.writeText(command)} />
        <Button label="Close" kind="quiet" onPress={onClose} />
      </View>
    </View>
  );
}

/** How many parts may be worked on at once. */
function AtOnce() {
  const dispatch = useAppDispatch();
  const [text, setText] = useState('');
  useEffect(() => {
    api.jobSettings().then(
      ({ atOnce }) => setText(String(atOnce)),
      () => undefined,
    );
  }, []);
  const number = Number(text);
  const good = Number.isInteger(number) && number >= 1 && number <= 1000;
  const keep = (): void => {
    if (good) api.setJobSettings({ atOnce: number }).catch((error: Error) => dispatch(noticeSet(error.message)));
  };
  return (
    <View className="flex-row">
      <View className="w-full max-w-[240px]">
        <Field
          label="Parts at once, at most"
          value={text}
          onChange={setText}
          onSubmit={keep}
          onBlur={keep}
          fault={good || text === '' ? undefined : 'must be a whole number from 1 to 1000'}
        />
      </View>
    </View>
  );
}
