import { useQueryClient } from '@tanstack/react-query';
import { Tooltip } from 'radix-ui';
import { lazy, Suspense, useMemo, useState } from 'react';
import { BrowserRouter, Navigate, Outlet, Route, Routes, useLocation } from 'react-router';
import { useLiveTraffic } from './api/live';
import { useAccount } from './api/useAccount';
import { CommandPalette } from './parts/CommandPalette';
import { ShortcutHelp } from './parts/ShortcutHelp';
import { Rail } from './parts/Rail';
import { PersonContext } from './parts/person';
import { WatchContext } from './parts/watch/watching';
import { signOut } from './places/account/queries';

const Watch = lazy(() => import('./parts/watch/Watch').then((m) => ({ default: m.Watch })));
const SignIn = lazy(() => import('./places/account/SignIn').then((m) => ({ default: m.SignIn })));
const FirstOwner = lazy(() => import('./places/account/FirstOwner').then((m) => ({ default: m.FirstOwner })));
const Join = lazy(() => import('./places/account/Join').then((m) => ({ default: m.Join })));
const Plan = lazy(() => import('./places/plan/Plan').then((m) => ({ default: m.Plan })));
const Conventions = lazy(() => import('./places/conventions/Conventions').then((m) => ({ default: m.Conventions })));
const Compose = lazy(() => import('./places/compose/Compose').then((m) => ({ default: m.Compose })));
const Batches = lazy(() => import('./places/batches/Batches').then((m) => ({ default: m.Batches })));
const Ledger = lazy(() => import('./places/ledger/Ledger').then((m) => ({ default: m.Ledger })));
const Workspace = lazy(() => import('./places/workspace/Workspace').then((m) => ({ default: m.Workspace })));
const Account = lazy(() => import('./places/account/Account').then((m) => ({ default: m.Account })));
const Proof = lazy(() => import('./places/proof/Proof').then((m) => ({ default: m.Proof })));
const Arrivals = lazy(() => import('./places/arrivals/Arrivals').then((m) => ({ default: m.Arrivals })));

export function App() {
  return (
    <BrowserRouter>
      <Tooltip.Provider>
        <Suspense fallback={null}>
          <Routes>
            <Route path="/sign-in" element={<SignIn />} />
            <Route path="/welcome" element={<FirstOwner />} />
            <Route path="/join" element={<Join />} />
            <Route element={<Frame />}>
              <Route path="/plan" element={<Plan />} />
              <Route path="/conventions" element={<Conventions />} />
              <Route path="/compose" element={<Compose />} />
              <Route path="/batches" element={<Batches />} />
              <Route path="/ledger" element={<Ledger />} />
              <Route path="/workspace" element={<Workspace />} />
              <Route path="/arrivals" element={<Arrivals />} />
              <Route path="/proof" element={<Proof />} />
              <Route path="/account" element={<Account />} />
              <Route path="*" element={<Navigate to="/compose" replace />} />
            </Route>
          </Routes>
        </Suspense>
      </Tooltip.Provider>
    </BrowserRouter>
  );
}

/** Keeps what is on the screen up with the traffic. */
function Live() {
  useLiveTraffic();
  return null;
}

/** Rail and place; whoever is not signed in is sent to the sign-in page and comes back here afterwards. */
function Frame() {
  const location = useLocation();
  const queries = useQueryClient();
  const account = useAccount();
  const [watching, watch] = useState(() => sessionStorage.getItem('watch') === '1');
  const watched = useMemo(
    () => ({
      watching,
      watch: (open: boolean) => {
        sessionStorage.setItem('watch', open ? '1' : '0');
        watch(open);
      },
    }),
    [watching],
  );

  async function leave() {
    await signOut();
    queries.clear();
    window.location.assign('/sign-in');
  }

  if (account.isPending) return null;
  if (account.isError)
    return <p className="p-8">The application can’t be reached right now. Nothing was lost; reload in a moment.</p>;
  if (!account.data.person) {
    const to = account.data.needsFirstOwner
      ? '/welcome'
      : `/sign-in?to=${encodeURIComponent(location.pathname + location.search)}`;
    return <Navigate to={to} replace />;
  }
  return (
    <PersonContext value={account.data.person}>
      <WatchContext value={watched}>
        <Live />
        <div className="flex h-full max-sm:flex-col-reverse">
          <Rail person={account.data.person} onSignOut={leave} />
          <main className="flex min-h-0 min-w-0 flex-1 flex-col">
            <Suspense fallback={null}>
              <Outlet />
            </Suspense>
          </main>
          {watching && (
            <Suspense fallback={null}>
              <Watch onClose={() => watched.watch(false)} />
            </Suspense>
          )}
          <CommandPalette />
          <ShortcutHelp />
        </div>
      </WatchContext>
    </PersonContext>
  );
}
