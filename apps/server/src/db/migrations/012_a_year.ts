import type { Knex } from 'knex';

/** A sheet is stored whole with every revision whose number is a multiple of this, and with the first for a drive; between them what changed. */
const wholeEvery = 100;

/** What a year of work comes to: sheets store what changed, the newest stands beside them, what is asked has its index, recordings can go. */
export async function up(db: Knex): Promise<void> {
  await db.schema.createTable('sheets', (t) => {
    t.integer('machine_id').notNullable().references('machines.id');
    t.text('kind').notNullable();
    t.integer('drive_revision').notNullable();
    t.integer('revision').notNullable();
    t.jsonb('values').notNullable();
    t.text('author').notNullable();
    t.timestamp('at').notNullable();
    t.primary(['machine_id', 'kind', 'drive_revision']);
  });
  await db.raw(`insert into sheets select distinct on (machine_id, kind, drive_revision) machine_id, kind, drive_revision, revision, values, author, at
    from sheet_revisions order by machine_id, kind, drive_revision, revision desc`);
  await sheetsByChange(db);
  await db.raw('create index audit_events_tag_at on audit_events (tag, at)');
  await db.raw('create index audit_events_tag_id on audit_events (tag, id)');
  await db.raw(`create index audit_events_trips on audit_events (tag, id) where action in ('tripped', 'trip gone')`);
  await db.raw('create index recording_marks_of on recording_marks (recording_id, time)');
  await db.raw('create index recordings_open on recordings (id) where not complete');
  await db.raw('create index recordings_started on recordings (started_at)');
  await db.raw('create index trips_open on trips (machine_id) where closed is null');
  await db.raw('create index trips_at on trips (at desc, id desc)');
  await db.raw('create index trips_recordings on trips (trend_id, trace_id)');
  await db.raw('create index photos_of on photos (machine_id, id)');
  await db.raw("create index proofs_left on proofs (machine_id, id desc) where stage = 'plan' and item = 'left'");
  await recordingsThatGo(db);
}

async function sheetsByChange(db: Knex): Promise<void> {
  await db.raw('alter table sheet_revisions add column changed jsonb, add column figures integer not null default 0');
  await db.raw('alter table sheet_revisions alter column values drop not null');
  await db.raw('alter table sheet_revisions disable trigger history');
  await db.raw(
    `with ordered as (
      select id, revision, values, lag(values) over w as before, row_number() over w as n
      from sheet_revisions window w as (partition by machine_id, kind, drive_revision order by revision)
    )
    update sheet_revisions s set
      figures = case when o.before is null then 0 else
        (select count(*) from jsonb_each(o.values) e where (o.before -> e.key -> 'value') is distinct from (e.value -> 'value')) end,
      changed = case when o.n = 1 or o.revision % ${wholeEvery} = 0 then null else
        (select coalesce(jsonb_object_agg(e.key, e.value), '{}') from jsonb_each(o.values) e where (o.before -> e.key) is distinct from e.value)
        || (select coalesce(jsonb_object_agg(k, null::jsonb), '{}') from jsonb_object_keys(o.before) k where not jsonb_exists(o.values, k)) end,
      values = case when o.n = 1 or o.revision % ${wholeEvery} = 0 then o.values else null end
    from ordered o where o.id = s.id`,
  );
  await db.raw('alter table sheet_revisions enable trigger history');
  await db.raw('alter table sheet_revisions add constraint whole_or_changed check ((values is null) <> (changed is null))');
  await db.raw('create index sheet_revisions_of on sheet_revisions (machine_id, id desc)');
  await db.raw('create index sheet_revisions_whole on sheet_revisions (machine_id, kind, drive_revision, revision) where values is not null');
}

/** Recordings are thinned and removed by a rule of the plant's, or by hand with a reason; nothing else of history is. */
async function recordingsThatGo(db: Knex): Promise<void> {
  await db.raw(`CREATE OR REPLACE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
    BEGIN
      IF TG_OP = 'DELETE' AND TG_TABLE_NAME = 'recording_chunks' THEN
        IF current_setting('yare.recording_goes', true) = OLD.recording_id::text THEN
          RETURN OLD;
        END IF;
      END IF;
      RAISE EXCEPTION 'rows of % are history and are never changed', TG_TABLE_NAME;
    END $$`);
  await db.schema.alterTable('recordings', (t) => {
    /** s between samples it was thinned to; null while it is whole */
    t.double('thinned');
  });
  await db.schema.createTable('keeping', (t) => {
    t.boolean('only').primary().defaultTo(true);
    /** days a recording is kept whole, then how long thinned; null for always */
    t.integer('whole_days');
    t.integer('thinned_days');
    t.text('author').notNullable();
    t.timestamp('at').notNullable().defaultTo(db.fn.now());
  });
}

export async function down(): Promise<void> {
  throw new Error('Migrations run forward only.');
}
