import type { Survey, SurveyRevision } from '@yare/contract';
import type { Db } from '../db/connect';
import { json } from '../db/tables';
import type { DocumentKind } from '../documents/documents';
import { notFound } from '../problem';

/** The newest survey; null before the first. */
export async function surveyOf(db: Db, machineId: number): Promise<SurveyRevision | null> {
  const row = await db('survey_revisions').where({ machine_id: machineId }).orderBy('revision', 'desc').first('revision', 'survey', 'author', 'at');
  return row ? { ...row, at: row.at.toISOString() } : null;
}

export const surveyDocument: DocumentKind<SurveyRevision, Survey, 'edit survey'> = {
  called: 'the survey',
  action: 'edit survey',
  latest: (db, m) => surveyOf(db, m.id),
  append: async (trx, m, revision, author, survey) => {
    await trx('survey_revisions').insert({ machine_id: m.id, revision, survey: json(survey), author });
    // what feeds the machine is what was found there
    const { voltage, frequency, phases } = survey;
    await trx('machines')
      .where({ id: m.id })
      .update({ supply: json({ voltage, frequency, phases }) });
    const now = await surveyOf(trx, m.id);
    if (!now) throw notFound('survey');
    return now;
  },
  told: (before, after) => ({ revision: after.revision, before: before?.survey ?? null, after: after.survey }),
};
