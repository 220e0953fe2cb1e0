import type { MigrationInterface, QueryRunner } from 'typeorm';

const id = 'varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL';
const hash = 'char(64) CHARACTER SET ascii COLLATE ascii_bin';

/** The first schema. Table names are the entities'. */
class FirstRooms1790000000000 implements MigrationInterface {
  name = 'FirstRooms1790000000000';
  async up(q: QueryRunner): Promise<void> {
    const tables = [
      `CREATE TABLE project (id ${id} PRIMARY KEY, name varchar(120) NOT NULL, createdAt datetime(3) NOT NULL)`,
      `CREATE TABLE \`blob\` (hash ${hash} NOT NULL PRIMARY KEY, uploadId ${id}, size int unsigned NOT NULL, createdAt datetime(3) NOT NULL)`,
      `CREATE TABLE chunk (uploadId ${id}, n int NOT NULL, data mediumblob NOT NULL, PRIMARY KEY (uploadId, n))`,
      `CREATE TABLE asset (id ${id} PRIMARY KEY, projectId ${id}, name varchar(120) NOT NULL, sculptHash ${hash} NULL,
        originalHash ${hash} NULL, originalName varchar(255) NULL, revision int NOT NULL, documentHash ${hash} NOT NULL,
        summary text NOT NULL, savedAt datetime(3) NOT NULL, FOREIGN KEY (projectId) REFERENCES project(id) ON DELETE CASCADE)`,
      `CREATE TABLE revision (assetId ${id}, revision int NOT NULL, documentHash ${hash} NOT NULL, savedAt datetime(3) NOT NULL,
        PRIMARY KEY (assetId, revision), FOREIGN KEY (assetId) REFERENCES asset(id) ON DELETE CASCADE)`,
      `CREATE TABLE version (id ${id} PRIMARY KEY, assetId ${id}, name varchar(120) NOT NULL, revision int NOT NULL,
        documentHash ${hash} NOT NULL, summary text NOT NULL, createdAt datetime(3) NOT NULL,
        FOREIGN KEY (assetId) REFERENCES asset(id) ON DELETE CASCADE)`,
      `CREATE TABLE thumbnail (assetId ${id} PRIMARY KEY, revision int NOT NULL, png mediumblob NOT NULL,
        FOREIGN KEY (assetId) REFERENCES asset(id) ON DELETE CASCADE)`,
      `CREATE TABLE mark (name varchar(40) NOT NULL PRIMARY KEY)`,
    ];
    for (const sql of tables) await q.query(sql);
  }
  async down(q: QueryRunner): Promise<void> {
    for (const t of ['mark', 'thumbnail', 'version', 'revision', 'asset', 'chunk', '`blob`', 'project'])
      await q.query(`DROP TABLE ${t}`);
  }
}

/** Long work on the server. */
class Jobs1795600000000 implements MigrationInterface {
  name = 'Jobs1795600000000';
  async up(q: QueryRunner): Promise<void> {
    await q.query(`CREATE TABLE job (id ${id} PRIMARY KEY, assetId ${id}, kind varchar(20) NOT NULL, run ${id}, label varchar(120) NOT NULL,
      state varchar(12) NOT NULL, ask mediumtext NOT NULL, refusal text NULL, result mediumtext NULL,
      looks int NOT NULL, picture mediumblob NULL, askedAt datetime(3) NOT NULL, endedAt datetime(3) NULL,
      KEY byState (state, askedAt), FOREIGN KEY (assetId) REFERENCES asset(id) ON DELETE CASCADE)`);
  }
  async down(q: QueryRunner): Promise<void> {
    await q.query('DROP TABLE job');
  }
}

/** The sculpt that a newer one took the place of. */
class SculptBefore1795700000000 implements MigrationInterface {
  name = 'SculptBefore1795700000000';
  async up(q: QueryRunner): Promise<void> {
    await q.query(`ALTER TABLE asset ADD COLUMN sculptBefore ${hash} NULL, ADD COLUMN originalBefore ${hash} NULL,
      ADD COLUMN originalNameBefore varchar(255) NULL`);
  }
  async down(q: QueryRunner): Promise<void> {
    await q.query(
      'ALTER TABLE asset DROP COLUMN sculptBefore, DROP COLUMN originalBefore, DROP COLUMN originalNameBefore',
    );
  }
}

export const MIGRATIONS = [FirstRooms1790000000000, Jobs1795600000000, SculptBefore1795700000000];
