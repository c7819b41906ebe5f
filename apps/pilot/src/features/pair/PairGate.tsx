import { usePathname } from 'expo-router';
import { useEffect, type ReactNode } from 'react';
import { askWhoWeAre, usePairing } from '../../data/pairing';
import { PairScreen } from './PairScreen';

/** Lets the application be seen only where the server answers this device; elsewhere it asks for the code. */
export function PairGate({ children }: { children: ReactNode }) {
  const allowed = usePairing((p) => p.allowed);
  useEffect(askWhoWeAre, []);
  const asksItself = usePathname() === '/pair';
  // until the server has said no, what this device remembers may be shown; the page that asks is not begun anew when the answer comes
  return allowed === false || asksItself ? <PairScreen /> : children;
}
