import { emptySurvey, emptyWiring } from '@yare/commissioning';
import type { MachineDetail, PlateRevision, Sheet, Sheets, SurveyRevision, WiringRevision } from '@yare/contract';
import { api } from './api';
import { keys, queryClient, send } from './client';
import type { EditKind, EditKinds } from './editStore';

/** A document that is edited on the device: how the page knows it, and how a change of it reaches the server. */
interface EditedDocument<Changes, Revision extends { revision: number }> {
  /** the revision on screen; undefined before the first, or before it was read */
  known(tag: string): Revision | undefined;
  /** sends changes made on a revision; on the newest when none is named */
  put(tag: string, changes: Changes, base: number | null): Promise<Revision>;
  /** shows a revision the server has given */
  show(tag: string, revision: Revision): void;
  /** what a revision says for what was changed */
  says(revision: Revision, field: string): unknown;
  /** what a change would make it say */
  means(changes: Changes, field: string): unknown;
}

const machineOf = (tag: string) => queryClient.getQueryData<MachineDetail>(keys.machine(tag));
const sheetsOf = (tag: string) => queryClient.getQueryData<Sheets>(keys.sheets(tag));
const askMachine = async (tag: string) => machineOf(tag) ?? (await api<MachineDetail>(`/machines/${tag}`));
const field = (of: object, name: string): unknown => Object.entries(of).find(([key]) => key === name)?.[1];

const draft: EditedDocument<EditKinds['draft']['changes'], Sheet> = {
  known: (tag) => sheetsOf(tag)?.draft,
  put: async (tag, changes, base) => {
    const now = sheetsOf(tag)?.draft ?? (await api<Sheets>(`/machines/${tag}/sheets`)).draft;
    const revised = await send<Sheet>('PUT', `/machines/${tag}/draft`, {
      revision: base ?? now.revision,
      changes: Object.entries(changes).map(([code, c]) => ({ code, ...c })),
    });
    await queryClient.cancelQueries({ queryKey: keys.sheets(tag) });
    return revised;
  },
  show: (tag, revision) => void queryClient.setQueryData<Sheets>(keys.sheets(tag), (old) => old && { ...old, draft: revision }),
  says: (revision, code) => revision.values[code]?.value,
  means: (changes, code) => changes[code]?.value,
};

const plate: EditedDocument<EditKinds['plate']['changes'], PlateRevision> = {
  known: (tag) => machineOf(tag)?.plate,
  put: async (tag, changes, base) => {
    const now = (await askMachine(tag)).plate;
    const revised = await send<PlateRevision>('PUT', `/machines/${tag}/plate`, {
      revision: base ?? now.revision,
      plate: { ...now.plate, ...changes },
    });
    await queryClient.cancelQueries({ queryKey: keys.machine(tag) });
    return revised;
  },
  show: (tag, revision) => void queryClient.setQueryData<MachineDetail>(keys.machine(tag), (old) => old && { ...old, plate: revision }),
  says: (revision, name) => field(revision.plate, name),
  means: field,
};

const survey: EditedDocument<EditKinds['survey']['changes'], SurveyRevision> = {
  known: (tag) => queryClient.getQueryData<SurveyRevision | null>(keys.survey(tag)) ?? undefined,
  put: async (tag, changes, base) => {
    const machine = await askMachine(tag);
    const known = queryClient.getQueryData<SurveyRevision | null>(keys.survey(tag));
    const now = known === undefined ? await api<SurveyRevision | null>(`/machines/${tag}/survey`) : known;
    const revised = await send<SurveyRevision>('PUT', `/machines/${tag}/survey`, {
      revision: base ?? now?.revision ?? 0,
      survey: { ...(now?.survey ?? emptySurvey(machine)), ...changes },
    });
    // what was first put on record is known to the server only
    if (changes.driven === null) void queryClient.invalidateQueries({ queryKey: keys.machine(tag) });
    return revised;
  },
  show: (tag, revision) => {
    queryClient.setQueryData<SurveyRevision | null>(keys.survey(tag), revision);
    const { voltage, frequency, driven } = revision.survey;
    queryClient.setQueryData<MachineDetail>(
      keys.machine(tag),
      (old) => old && { ...old, supply: { voltage, frequency }, ...(driven && { driven, drivenEstimated: false }) },
    );
  },
  says: (revision, name) => field(revision.survey, name),
  means: field,
};

const wiring: EditedDocument<EditKinds['wiring']['changes'], WiringRevision> = {
  known: (tag) => queryClient.getQueryData<WiringRevision | null>(keys.wiring(tag)) ?? undefined,
  put: async (tag, changes, base) => {
    const known = queryClient.getQueryData<WiringRevision | null>(keys.wiring(tag));
    const now = known === undefined ? await api<WiringRevision | null>(`/machines/${tag}/wiring`) : known;
    return send<WiringRevision>('PUT', `/machines/${tag}/wiring`, {
      revision: base ?? now?.revision ?? 0,
      wiring: { ...(now?.wiring ?? emptyWiring), ...changes },
    });
  },
  show: (tag, revision) => void queryClient.setQueryData<WiringRevision | null>(keys.wiring(tag), revision),
  says: (revision, name) => field(revision.wiring, name),
  means: field,
};

/** Every document that is edited on the device. */
export const documents: { readonly [K in EditKind]: EditedDocument<EditKinds[K]['changes'], EditKinds[K]['revision']> } = {
  draft,
  plate,
  survey,
  wiring,
};
export const editKinds = ['draft', 'plate', 'survey', 'wiring'] as const satisfies readonly EditKind[];
