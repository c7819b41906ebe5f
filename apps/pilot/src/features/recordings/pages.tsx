import { later } from '../../ui/later';
import { Waiting } from '../../ui/Waiting';

/** Pages of recordings, fetched together when the first is wanted. */
const page = later(() => import('./screens'));
const waiting = () => <Waiting />;

export const RecordingPage = page((all) => all.RecordingScreen, waiting);
export const RecordingsPage = page((all) => all.RecordingsScreen, waiting);
