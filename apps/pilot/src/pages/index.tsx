import { later } from '../ui/later';
import { Waiting } from '../ui/Waiting';

/** Every page but the plant's own, fetched together when the first is wanted. */
const page = later(() => import('./screens'));
const waiting = () => <Waiting />;

export const BeforePowerPage = page((all) => all.BeforePowerScreen, waiting);
export const BenchPage = page((all) => all.BenchScreen, waiting);
export const CasePage = page((all) => all.CaseScreen, waiting);
export const CommandPage = page((all) => all.CommandScreen, waiting);
export const ComparePage = page((all) => all.CompareScreen, waiting);
export const DevicesPage = page((all) => all.DevicesScreen, waiting);
export const DirectionPage = page((all) => all.DirectionScreen, waiting);
export const DrivePage = page((all) => all.DriveScreen, waiting);
export const EmergencyPage = page((all) => all.EmergencyScreen, waiting);
export const GuardsPage = page((all) => all.GuardsScreen, waiting);
export const HandOffAutoPage = page((all) => all.HandOffAutoScreen, waiting);
export const MachinePage = page((all) => all.MachineScreen, waiting);
export const MotionPage = page((all) => all.MotionScreen, waiting);
export const NewMachinePage = page((all) => all.NewMachineScreen, waiting);
export const PlatePage = page((all) => all.PlateScreen, waiting);
export const PresetsPage = page((all) => all.PresetsScreen, waiting);
export const ProcessPage = page((all) => all.ProcessScreen, waiting);
export const ProtectionPage = page((all) => all.ProtectionScreen, waiting);
export const RecordingPage = page((all) => all.RecordingScreen, waiting);
export const RecordingsPage = page((all) => all.RecordingsScreen, waiting);
export const RevisionsPage = page((all) => all.RevisionsScreen, waiting);
export const SettingsPage = page((all) => all.SettingsScreen, waiting);
export const SleepPage = page((all) => all.SleepScreen, waiting);
export const StartPage = page((all) => all.StartScreen, waiting);
export const StationPage = page((all) => all.StationScreen, waiting);
export const SurveyPage = page((all) => all.SurveyScreen, waiting);
export const TerminalsPage = page((all) => all.TerminalsScreen, waiting);
export const TripPage = page((all) => all.TripScreen, waiting);
export const TripHistoryPage = page((all) => all.TripHistoryScreen, waiting);
export const TunePage = page((all) => all.TuneScreen, waiting);
export const TurnPage = page((all) => all.TurnScreen, waiting);
export const WritePage = page((all) => all.WriteScreen, waiting);
