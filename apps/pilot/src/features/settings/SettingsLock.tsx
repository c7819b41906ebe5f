import { useLock, useSetLock } from '../../data/lock';
import { useState } from 'react';
import { say } from '@yare/words/pages/settings';
import { Finding, Note } from '../../ui/sheet';
import { TextLine } from '../../ui/TextLine';
import { when } from '../../ui/when';
import { Refusal } from '../../ui/Answer';

/** Draft and drive locked against everybody with a code, and opened with the same code. */
export function SettingsLock({ tag }: { tag: string }) {
  const { data: lock, error } = useLock(tag);
  const set = useSetLock(tag);
  const [code, setCode] = useState('');
  const locked = Boolean(lock);
  const act = () => set.mutate({ locked: !locked, code }, { onSuccess: () => setCode('') });
  // a code typed before it is known whether there is a lock would be taken for the other act
  if (lock === undefined) return error ? <Finding severity="error" sentence={error.message} /> : <Note>{say.readingWhetherItIsLocked}</Note>;
  return (
    <>
      {lock && <Finding severity="warning" sentence={say.lockedByNobodyChangesThe({ author: lock.author, when: when(lock.at) })} />}
      <Refusal of={set.error} />
      <TextLine
        label={locked ? say.codeToOpenTheLock : say.codeToLockWith}
        placeholder={locked ? say.codeToOpenIt : say.codeCharactersOrMore}
        value={code}
        onChange={setCode}
        secret
        act={code.length >= 4 ? (locked ? say.open : say.lock) : undefined}
        onAct={code.length >= 4 ? act : undefined}
        testID="lock-code"
        actTestID="lock-set"
      />
    </>
  );
}
