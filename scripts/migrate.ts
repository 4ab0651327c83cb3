import { closeDatabase, migrateDatabase } from '../server/database';
import { queue, stopQueue } from '../server/jobs/queue';

await migrateDatabase();
await queue(); // makes its own tables
await stopQueue();
await closeDatabase();
