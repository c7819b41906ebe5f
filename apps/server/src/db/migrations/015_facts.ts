import type { Knex } from 'knex';

/** Proofs keep what was found as figures and codes; what was written down before that stays as its text. */
export async function up(db: Knex): Promise<void> {
  await db.raw('alter table proofs rename column measured to told');
  await db.raw('alter table proofs rename column expected to told_expected');
  await db.raw('alter table proofs alter column told drop not null, alter column told_expected drop not null');
  // what the server saw itself stood there without its kind
  await db.raw('alter table proofs disable trigger history');
  await db.raw(`
    update proofs set facts = case stage
      when 'guards' then jsonb_build_object('kind', 'guard', 'guard', item, 'act', facts)
      when 'sleep' then jsonb_build_object('kind', 'sleep') || facts
      when 'presets' then jsonb_build_object('kind', 'preset', 'frequency', facts)
      when 'hand-off-auto' then jsonb_build_object('kind', 'selector') || facts
      when 'emergency' then jsonb_build_object('kind', 'emergency', 'through', null) || facts - 'ignored'
      when 'process' then jsonb_build_object('kind', 'holds', 'range', null) || facts
      when 'station' then jsonb_build_object('kind', item) || facts
    end where facts is not null and facts <> 'null'::jsonb`);
  await db.raw('alter table proofs enable trigger history');
}

export async function down(): Promise<void> {
  throw new Error('Migrations run forward only.');
}
