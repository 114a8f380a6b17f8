import type { ReactNode } from 'react';
import { useMe } from '../api/access';
import { RoleProvider } from '../ui/Role';

/** Tells every screen who looks. */
export function Who({ children }: { children: ReactNode }): ReactNode {
  const { data } = useMe();
  return <RoleProvider role={data?.role ?? 'reviewer'}>{children}</RoleProvider>;
}
