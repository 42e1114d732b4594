import type { SessionView } from '@drive-keep/api';
import { Download, Moon, Sun, Upload, User } from 'lucide-react';
import { Link, NavLink, useLocation } from 'react-router';
import { remove } from '../api/client.ts';
import { queryClient, useOpenJobs, useSession } from '../api/queries.ts';
import { shownTheme, useTheme } from '../session/theme.ts';
import { Menu, MenuDoing, MenuRule, MenuWay } from '../ui/menu.tsx';
import { Search } from './search.tsx';

const PLACES = [
  { to: '/', name: 'Register' },
  { to: '/rounds', name: 'Rounds' },
  { to: '/compare', name: 'Compare' },
  { to: '/replace', name: 'Replace' },
  { to: '/look-up', name: 'Look-up' },
  { to: '/models', name: 'Models' },
  { to: '/logbook', name: 'Logbook' },
] as const;

export function TopBar() {
  const { data: session } = useSession();
  return (
    <header className="border-b border-rule bg-sheet print:hidden">
      <div className="mx-auto flex max-w-[1400px] flex-wrap items-center gap-x-3 gap-y-1 px-4 py-1.5 max-md:flex-nowrap max-md:gap-x-1 max-md:px-2 lg:px-6">
        <Link to="/" className="flex items-center gap-2 font-semibold">
          <img src="/mark.svg" alt="Drive Keep" className="size-6" />
          <span className="max-md:sr-only">{session?.plant}</span>
        </Link>
        <PlacesMenu />
        <nav aria-label="Main places" className="flex flex-wrap gap-x-1 max-md:hidden">
          {PLACES.map(({ to, name }) => (
            <NavLink
              key={to}
              to={to}
              end={to === '/'}
              className={({ isActive }) =>
                `rounded px-2.5 py-1 max-lg:py-3 ${isActive ? 'bg-plum-wash font-semibold' : 'hover:underline'}`
              }
            >
              {name}
            </NavLink>
          ))}
        </nav>
        <WorkSlip />
        <div className="ml-auto flex items-center gap-2">
          <Search />
          <ThemeButton />
          {session && <OwnMenu session={session} />}
        </div>
      </div>
      <NoNetwork />
      <IsCopy session={session} />
    </header>
  );
}

/** Who is signed in, and what belongs to the plant as a whole. */
function OwnMenu({ session }: { session: SessionView }) {
  const name = (
    <>
      <User className="size-4 md:hidden" aria-hidden="true" />
      <span className="max-md:sr-only">
        {session.person} <span className="text-soft">{session.role}</span>
      </span>
    </>
  );
  return (
    <Menu name={name} className="h-9 px-2 hover:bg-plum-wash max-lg:h-12">
      <MenuWay to="/drafts">First settings</MenuWay>
      <MenuWay to="/jobs">Work, now and before</MenuWay>
      <MenuWay to="/calculate/motor">Motor calculator</MenuWay>
      <MenuWay to="/calculate/signal">Signal calculator</MenuWay>
      <MenuWay to="/plant">The plant</MenuWay>
      <MenuWay to="/lines">Lines</MenuWay>
      <MenuWay to="/site">Supplies and cabinets</MenuWay>
      {session.role === 'engineer' && <MenuWay to="/people">People</MenuWay>}
      <MenuRule />
      <MenuWay to="/account">Your account</MenuWay>
      <MenuDoing act={() => void signOut()}>Sign out</MenuDoing>
    </Menu>
  );
}

/** A restored copy looks like the plant and is not it. */
function IsCopy({ session }: { session: SessionView | undefined }) {
  if (!session?.isCopy) return null;
  return (
    <p role="status" className="bg-look-wash px-6 py-1 text-center text-sm">
      This is a restored copy of {session.plant}. It talks to no unit.{' '}
      <Link to="/plant" className="text-plum underline">
        The plant
      </Link>
    </p>
  );
}

/** The same places on a phone, where a bar of them would take half of the screen. */
function PlacesMenu() {
  const { pathname } = useLocation();
  const here = PLACES.findLast(({ to }) => pathname === to || (to !== '/' && pathname.startsWith(to)));
  return (
    <Menu name={here?.name ?? 'Places'} align="start" className="h-12 px-2 font-semibold md:hidden">
      {PLACES.map(({ to, name }) => (
        <MenuWay key={to} to={to}>
          {name}
        </MenuWay>
      ))}
    </Menu>
  );
}

/** What is on the screen then is what was there before, or what was taken along. */
function NoNetwork() {
  const { error } = useOpenJobs();
  if (error?.problem.status !== 0) return null;
  return (
    <p role="status" className="bg-look-wash px-6 py-1 text-center text-sm">
      Drive Keep does not answer: no network. What is shown may be old.
    </p>
  );
}

/** Says that something is at work, wherever one is, and leads to it. */
function WorkSlip() {
  const { data: jobs = [] } = useOpenJobs();
  const [job] = jobs;
  if (!job) return null;
  const ended = job.items.filter((item) => item.state === 'ended').length;
  return (
    <Link
      to={`/jobs/${job.id}`}
      aria-label={`${job.kind === 'backup' ? 'Backing up' : 'Writing'}: ${ended} of ${job.items.length}`}
      className="flex items-center gap-1.5 rounded bg-look-wash px-2 py-0.5 text-sm"
    >
      {job.kind === 'backup' ? <Download className="size-4" /> : <Upload className="size-4" />}
      {ended} of {job.items.length}
    </Link>
  );
}

function ThemeButton() {
  const { chosen, choose } = useTheme();
  const dark = shownTheme(chosen) === 'dark';
  return (
    <IconButton
      label={dark ? 'Light paper' : 'Dark, for dark cabinets'}
      onClick={() => choose(dark ? 'light' : 'dark')}
    >
      {dark ? <Sun className="size-4" /> : <Moon className="size-4" />}
    </IconButton>
  );
}

function IconButton({
  label,
  onClick,
  children,
}: {
  label: string;
  onClick: () => void;
  children: React.ReactNode;
}) {
  return (
    <button
      type="button"
      aria-label={label}
      title={label}
      onClick={onClick}
      className="grid size-9 place-items-center rounded hover:bg-plum-wash max-lg:size-12"
    >
      {children}
    </button>
  );
}

async function signOut(): Promise<void> {
  await remove('session');
  // What was taken along for work without a network belongs to who was signed in.
  await globalThis.caches?.delete('taken-along');
  queryClient.clear();
  window.location.assign('/');
}
