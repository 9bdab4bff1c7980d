import type { DataSource } from 'typeorm';

/** A database's tables as MariaDB itself tells them, with the names of constraints left out. */
export type Schema = Record<string, Table>;

interface Table {
  columns: Record<string, string>;
  /** Indexes by their columns: `unique btree stage, no`. */
  indexes: string[];
  foreignKeys: string[];
  checks: string[];
}

interface ColumnRecord {
  t: string;
  name: string;
  type: string;
  nullable: string;
  standard: string | null;
  collation: string | null;
  extra: string;
  expression: string | null;
}

/** Reads a database's schema. Both sides of a comparison are read so: the server has brought what was said into one form. */
export async function readSchema(source: DataSource, name: string): Promise<Schema> {
  const schema: Schema = {};
  const of = (t: string): Table => (schema[t] ??= { columns: {}, indexes: [], foreignKeys: [], checks: [] });
  const columns: ColumnRecord[] = await source.query(
    `SELECT table_name AS t, column_name AS name, column_type AS type, is_nullable AS nullable, column_default AS standard, collation_name AS collation, extra, generation_expression AS expression
     FROM information_schema.columns WHERE table_schema = ?`,
    [name],
  );
  for (const c of columns)
    of(c.t).columns[c.name] = [
      // The width that a flag is shown with says nothing.
      c.type.replace(/^tinyint\(\d\)/, 'tinyint'),
      // What is computed may be empty or not by its expression; the server does not keep what was said.
      c.expression ? '' : c.nullable === 'YES' ? 'may be empty' : 'never empty',
      c.standard === null || c.standard === 'NULL' ? '' : `else ${c.standard}`,
      c.collation ?? '',
      c.extra.toLowerCase(),
      c.expression ? `as ${c.expression}` : '',
    ]
      .filter(Boolean)
      .join(', ');
  const indexes: { t: string; unique: number; type: string; columns: string }[] = await source.query(
    `SELECT table_name AS t, NOT MIN(non_unique) AS \`unique\`, MIN(IF(index_name = 'PRIMARY', 'primary', index_type)) AS type, GROUP_CONCAT(column_name ORDER BY seq_in_index SEPARATOR ', ') AS \`columns\`
     FROM information_schema.statistics WHERE table_schema = ? GROUP BY table_name, index_name`,
    [name],
  );
  for (const i of indexes)
    of(i.t).indexes.push(`${i.unique ? 'unique ' : ''}${i.type.toLowerCase()} ${i.columns}`);
  const keys: { t: string; column: string; to: string; rules: string }[] = await source.query(
    `SELECT k.table_name AS t, GROUP_CONCAT(k.column_name ORDER BY k.ordinal_position) AS \`column\`, CONCAT(MIN(k.referenced_table_name), '.', GROUP_CONCAT(k.referenced_column_name ORDER BY k.ordinal_position)) AS \`to\`, MIN(CONCAT(r.update_rule, ' ', r.delete_rule)) AS rules
     FROM information_schema.key_column_usage k JOIN information_schema.referential_constraints r ON r.constraint_schema = k.table_schema AND r.constraint_name = k.constraint_name AND r.table_name = k.table_name
     WHERE k.table_schema = ? AND k.referenced_table_name IS NOT NULL GROUP BY k.table_name, k.constraint_name`,
    [name],
  );
  for (const k of keys)
    of(k.t).foreignKeys.push(`${k.column} -> ${k.to} (${k.rules.replaceAll('NO ACTION', 'RESTRICT')})`);
  const checks: { t: string; clause: string }[] = await source.query(
    'SELECT table_name AS t, check_clause AS clause FROM information_schema.check_constraints WHERE constraint_schema = ?',
    [name],
  );
  for (const c of checks) of(c.t).checks.push(c.clause);
  for (const t of Object.values(schema)) {
    t.indexes.sort();
    t.foreignKeys.sort();
    t.checks.sort();
  }
  // Tables of TypeORM itself.
  delete schema.migrations;
  delete schema.typeorm_metadata;
  return schema;
}

/** Builds the tables of the entities in an empty database, with the CHECKs, which TypeORM knows of and does not make. */
export async function buildFromEntities(source: DataSource): Promise<void> {
  await source.synchronize();
  for (const entity of source.entityMetadatas)
    for (const check of entity.checks)
      await source.query(`ALTER TABLE \`${entity.tableName}\` ADD CHECK (${check.expression})`);
}

/** Every difference of two schemas, one a line. */
export function differencesOf(migrated: Schema, entities: Schema): string[] {
  const found: string[] = [];
  const lists = ['indexes', 'foreignKeys', 'checks'] as const;
  for (const t of [...new Set([...Object.keys(migrated), ...Object.keys(entities)])].sort()) {
    const [a, b] = [migrated[t], entities[t]];
    if (!a || !b) {
      found.push(`${t}: ${a ? 'no entity says it' : 'no migration makes it'}`);
      continue;
    }
    for (const c of new Set([...Object.keys(a.columns), ...Object.keys(b.columns)]))
      if (a.columns[c] !== b.columns[c])
        found.push(
          `${t}.${c}: migrated as “${a.columns[c] ?? 'nothing'}”, said as “${b.columns[c] ?? 'nothing'}”`,
        );
    for (const list of lists) {
      const count = (all: string[], x: string) => all.filter(y => y === x).length;
      for (const x of new Set([...a[list], ...b[list]]))
        if (count(a[list], x) !== count(b[list], x))
          found.push(
            `${t}: ${list}: “${x}” ${count(a[list], x)} times migrated, ${count(b[list], x)} times said`,
          );
    }
  }
  return found;
}
