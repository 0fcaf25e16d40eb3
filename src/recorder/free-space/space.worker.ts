/** Measures the browser's room once, tells it and ends: only workers may open files the quick way. */
import { openSyncFile } from '../worker/journal-file';
import { measureRoom } from './measure-space';

const root = await navigator.storage.getDirectory();
// A name of its own each time: several tabs may ask at once.
const name = `room-${crypto.randomUUID()}`;
const file = await openSyncFile(await root.getFileHandle(name, { create: true }));
const bytes = measureRoom(file);
file.close();
await root.removeEntry(name);
postMessage(bytes);
self.close();
