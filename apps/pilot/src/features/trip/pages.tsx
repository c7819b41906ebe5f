import { later } from '../../ui/later';
import { Waiting } from '../../ui/Waiting';

/** Pages of trips, fetched together when the first is wanted. */
const page = later(() => import('./screens'));
const waiting = () => <Waiting />;

export const TripPage = page((all) => all.TripScreen, waiting);
export const CasePage = page((all) => all.CaseScreen, waiting);
export const TripHistoryPage = page((all) => all.TripHistoryScreen, waiting);
