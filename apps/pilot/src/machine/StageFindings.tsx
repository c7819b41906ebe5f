import { useMemo } from 'react';
import { checkedOf, waysOut, type MachineModel, type Remedy, type StageFinding } from '@yare/commissioning';
import { editDraft, editPlate } from '../data/edits';
import { Finding, WayOut } from '../ui/sheet';
import { go } from '../ui/go';

/** Takes the way out of a finding: changes of the draft or of the plate, or the page where it is put right. */
export function takeRemedy(model: MachineModel, { changes, plate, go: to }: Remedy): void {
  const { tag } = model.machine;
  if (changes) {
    const before = Object.fromEntries(changes.map((c) => [c.code, model.draftOf(c.code)]));
    editDraft(tag, Object.fromEntries(changes.map((c) => [c.code, { value: c.value, source: c.source }])), before);
  }
  if (plate) editPlate(tag, plate, Object.fromEntries(Object.keys(plate).map((k) => [k, model.plate[k as keyof typeof plate] ?? null])));
  if (to) go(`/m/${tag}/${to}`);
}

/** One finding with the ways out that were found to lead out. */
function OneFinding({ model, finding: f }: { model: MachineModel; finding: StageFinding }) {
  const [first, ...more] = useMemo(() => waysOut(checkedOf(model), model.findings, f), [model, f]);
  return (
    <Finding severity={f.severity} sentence={f.sentence} act={first?.label} onAct={first && (() => takeRemedy(model, first))}>
      {more.map((way) => (
        <WayOut key={way.label} text={way.label} onPress={() => takeRemedy(model, way)} />
      ))}
    </Finding>
  );
}

/** What the checks found, as sentences with their way out. */
export function StageFindings({ model, findings }: { model: MachineModel; findings: readonly StageFinding[] }) {
  return (
    <>
      {findings.map((f) => (
        <OneFinding key={f.id} model={model} finding={f} />
      ))}
    </>
  );
}
