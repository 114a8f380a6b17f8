import { mayDo, type Need, type Role } from '@pace-check/contract';
import { createContext, useContext, type ReactNode } from 'react';

/** Until the server has said who asks, nothing is hidden: it refuses by itself what must not be. */
const RoleContext = createContext<Role>('reviewer');

export function RoleProvider({ role, children }: { role: Role; children: ReactNode }): ReactNode {
  return <RoleContext.Provider value={role}>{children}</RoleContext.Provider>;
}

export const useRole = (): Role => useContext(RoleContext);

/** Whether whoever looks may ask for this. */
export const useMay = ({ needs }: { needs: Need }): boolean => mayDo(useRole(), needs);

/** Shows what whoever looks may do, and leaves out what the server would refuse them. */
export function IfMay({ route, children }: { route: { needs: Need }; children: ReactNode }): ReactNode {
  return useMay(route) ? children : null;
}
