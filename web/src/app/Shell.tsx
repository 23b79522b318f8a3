import {
  ChevronDown,
  Ellipsis,
  Hand,
  Keyboard,
  LibraryBig,
  LogOut,
  Moon,
  Ruler,
  Scale,
  Settings2,
  Sun,
  Warehouse,
} from "lucide-react";
import { useCallback, useEffect, useRef, useState } from "react";
import { Link, Navigate, NavLink, Outlet, useLocation, useNavigate, useParams } from "react-router";
import { problemText, type Schemas } from "../api/client";
import { expiredStore } from "../api/expired";
import { useMachine } from "../features/machine/queries";
import { SignIn, SignInAgain } from "../features/session";
import { useChooseWorkshop, useSession, useSignOut } from "../features/session/queries";
import { VerdictStrip, WhyDrawer } from "../features/verdict";
import { useVerdict } from "../features/verdict/queries";
import { useMachines } from "../features/workshop/queries";
import { riddenStore } from "../lib/hands";
import {
  bayStore,
  keysStore,
  switchBay,
  switchTheme,
  switchUnits,
  systemStore,
  themeStore,
} from "../lib/settings";
import { draftsWaiting, useStore } from "../lib/store";
import { Button, Failure, Working } from "../ui/basics";
import { Drawer } from "../ui/Drawer";
import { CheckField } from "../ui/fields";
import { Menu } from "../ui/Menu";
import { Cell, Row, Table } from "../ui/Table";
import { Connection } from "./Connection";
import { ForThem } from "./ForThem";
import { useFocusKept, useFocusOnPage } from "./focus";
import { keyList, useKeys } from "./keys";
import { useSending } from "./outboxes";
import { stageMarks, stages, stageWords } from "./stages";

/** The frame of every page: rail on the left (a bar below on a phone), verdict strip on top, the stage in the middle. */
export function Shell() {
  const session = useSession();
  const theme = useStore(themeStore);
  const bay = useStore(bayStore);
  const single = useStore(keysStore);
  const expired = useStore(expiredStore);
  const [keysOpen, setKeysOpen] = useState(false);
  const params = useParams();
  const { pathname, search } = useLocation();
  // One step of a job fills a phone, and so does a braking.
  const working = (pathname.endsWith("/job") && search.includes("job=")) || pathname.includes("/bed/run/");
  const machineId = params.machineId ? Number(params.machineId) : null;
  const ridden = useMachines().data?.find((row) => row.id === machineId)?.kind === "motorcycle";
  useEffect(() => riddenStore.set(ridden), [ridden]);
  const main = useRef<HTMLElement>(null);
  useFocusKept();
  useSending(session.data?.user);
  useFocusOnPage(main, pathname);
  useKeys(useCallback(() => setKeysOpen(true), []));
  useEffect(() => {
    document.documentElement.dataset.theme = theme;
    document.documentElement.dataset.bay = bay;
  }, [theme, bay]);

  if (session.isPending) return <Working>Opening the workshop…</Working>;
  if (session.error) {
    const status = "problem" in session.error ? (session.error.problem as { status: number }).status : 0;
    if (status === 401) return <SignIn />;
    return <Failure text={problemText(session.error)} retry={() => session.refetch()} />;
  }
  // Where the workshop asks for a second factor nothing else is answered until it is set up.
  if (session.data.second_missing && !pathname.startsWith("/settings/me"))
    return <Navigate to="/settings/me" replace />;
  return (
    <div className="flex min-h-dvh flex-col md:flex-row">
      <a href="#main" className="sr-only focus:not-sr-only">
        Skip to the stage
      </a>
      <Rail machineId={machineId} session={session.data} onKeys={() => setKeysOpen(true)} />
      <div className="min-w-0 flex-1 pb-16 md:pb-0">
        <Connection />
        <ForThem role={session.data.role} />
        {machineId !== null && (
          <div className={`print:hidden ${working ? "max-md:hidden" : ""}`}>
            <div className="border-b border-hairline px-4 py-1.5 wide:hidden">
              <Switcher machineId={machineId} />
            </div>
            <VerdictStrip machineId={machineId} />
          </div>
        )}
        {/* The address changes before the page does: whoever waits for the page looks here. */}
        <main id="main" ref={main} tabIndex={-1} data-path={pathname} className="p-4 outline-none">
          <Outlet />
        </main>
        {machineId !== null && <WhyDrawer machineId={machineId} />}
      </div>
      <Drawer open={keysOpen} onClose={() => setKeysOpen(false)} title="Keys">
        <Table>
          <tbody>
            {keyList.map(([keys, what]) => (
              <Row key={keys}>
                <Cell className="figures font-semibold">{keys}</Cell>
                <Cell>{what}</Cell>
              </Row>
            ))}
          </tbody>
        </Table>
        <div className="mt-4">
          <CheckField checked={single === "on"} onChange={(on) => keysStore.set(on ? "on" : "off")}>
            Single keys act by themselves
          </CheckField>
        </div>
      </Drawer>
      {expired && <SignInAgain />}
    </div>
  );
}

type RailProps = { machineId: number | null; session: Schemas["Session"]; onKeys: () => void };

function Rail({ machineId, session, onKeys }: RailProps) {
  return (
    <nav
      aria-label="Stages"
      className="fixed inset-x-0 bottom-0 z-10 flex print:hidden! border-t border-ink bg-chalk md:sticky md:top-0 md:h-dvh md:w-14 md:shrink-0 md:flex-col md:border-r md:border-t-0 wide:w-50"
    >
      <div className="hidden border-b border-hairline p-4 wide:block">
        <WorkshopName session={session} />
        {machineId === null ? <p className="font-semibold">Thermaxis</p> : <Switcher machineId={machineId} />}
      </div>
      {machineId !== null && <StageList machineId={machineId} />}
      <Foot onKeys={onKeys} session={session} />
    </nav>
  );
}

/** In which workshop one works; who belongs to several switches here. */
function WorkshopName({ session }: { session: Schemas["Session"] }) {
  const choose = useChooseWorkshop();
  if (session.workshops.length < 2) return <p className="condensed text-xs text-muted">{session.workshop}</p>;
  return (
    <Menu
      align="start"
      className="condensed flex min-h-6 items-center gap-1 text-left text-xs text-muted bay:min-h-11"
      entries={session.workshops.map((row) => ({
        key: row.id,
        label: row.name,
        act: () => choose.mutate({ workshop_id: row.id }),
      }))}
    >
      {session.workshop} <ChevronDown size={13} aria-hidden="true" />
    </Menu>
  );
}

function Switcher({ machineId }: { machineId: number }) {
  const machines = useMachines();
  const machine = useMachine(machineId);
  const navigate = useNavigate();
  const stage = useLocation().pathname.split("/")[3] ?? "machine";
  return (
    <>
      <Menu
        align="start"
        className="flex min-h-6 items-center gap-1 text-left text-base font-semibold bay:min-h-11"
        entries={(machines.data ?? []).map((row) => ({
          key: row.id,
          label: row.name,
          act: () => navigate(`/m/${row.id}/${stage}`),
        }))}
      >
        {machine.data?.name ?? "…"} <ChevronDown size={15} aria-hidden="true" />
      </Menu>
      <p className="condensed text-xs text-muted">{machine.data?.note}</p>
    </>
  );
}

function StageList({ machineId }: { machineId: number }) {
  const verdict = useVerdict(machineId);
  const states = new Map(verdict.data?.stages.map((stage) => [stage.name, stage]));
  const list = useRef<HTMLOListElement>(null);
  const { pathname } = useLocation();
  // On a phone there are more stages than fit side by side: the one that is open is in sight.
  // biome-ignore lint/correctness/useExhaustiveDependencies: once for each page
  useEffect(() => {
    const here = list.current?.querySelector<HTMLElement>("[aria-current=page]");
    if (here && list.current && list.current.scrollWidth > list.current.clientWidth)
      list.current.scrollLeft = here.offsetLeft - (list.current.clientWidth - here.clientWidth) / 2;
  }, [pathname]);
  return (
    <ol
      ref={list}
      className="relative flex min-w-0 flex-1 max-md:overflow-x-auto md:block md:flex-none md:pt-3"
    >
      {stages.map(({ name, label, icon: Icon }, index) => {
        const state = states.get(name)?.state ?? "empty";
        return (
          <li key={name} className="flex-1 max-md:bay:min-w-[44px] max-md:shrink-0">
            <NavLink
              to={`/m/${machineId}/${name}`}
              className="flex h-full flex-col items-center gap-x-3 px-0.5 py-1.5 text-xs bay:max-md:text-[11px] aria-[current=page]:bg-ink aria-[current=page]:text-chalk md:py-2.5 wide:flex-row wide:px-4 wide:text-sm"
            >
              <span aria-hidden="true" className="figures hidden w-3 text-xs opacity-75 wide:inline">
                {index + 1}
              </span>
              <Icon size={17} aria-hidden="true" className="wide:hidden" />
              <span className="md:max-wide:sr-only">{label}</span>
              <span
                data-stage={name}
                data-state={state}
                className="condensed text-xs bay:max-md:text-[11px] opacity-85 wide:ml-auto"
              >
                {stageMarks[state]} <span className="max-wide:sr-only">{stageWords[state]}</span>
              </span>
            </NavLink>
          </li>
        );
      })}
    </ol>
  );
}

type FootProps = { onKeys: () => void; session: Schemas["Session"] };

function Foot({ onKeys, session }: FootProps) {
  // What can be bought is no driver's business.
  const buys = session.role !== "driver";
  const system = useStore(systemStore);
  const theme = useStore(themeStore);
  const bay = useStore(bayStore);
  const signOut = useSignOut();
  const [leaving, setLeaving] = useState(false);
  const leave = () => (draftsWaiting() > 0 ? setLeaving(true) : signOut.mutate());
  const item = "flex items-center justify-center gap-2 px-2 py-1.5 md:justify-start wide:px-4";
  const label = "max-wide:sr-only";
  return (
    <div className="flex items-center border-hairline md:mt-auto md:block md:border-t md:py-2">
      <Link to="/" className={item}>
        <Warehouse size={16} aria-hidden="true" />
        <span className={label}>Workshop</span>
      </Link>
      {buys && (
        <Link to="/catalogue" className={`${item} max-md:hidden`}>
          <LibraryBig size={16} aria-hidden="true" />
          <span className={label}>Catalogue</span>
        </Link>
      )}
      <button type="button" className={`${item} max-md:hidden`} onClick={switchUnits}>
        <Ruler size={16} aria-hidden="true" />
        <span className={label}>Units: {system}</span>
      </button>
      <button type="button" className={`${item} max-md:hidden`} onClick={switchTheme}>
        {theme === "light" ? <Moon size={16} aria-hidden="true" /> : <Sun size={16} aria-hidden="true" />}
        <span className={label}>{theme === "light" ? "Evening" : "Daylight"}</span>
      </button>
      <button
        type="button"
        className={`${item} max-md:hidden`}
        aria-pressed={bay === "on"}
        onClick={switchBay}
      >
        <Hand size={16} aria-hidden="true" />
        <span className={label}>Bay mode{bay === "on" && ": on"}</span>
      </button>
      <button type="button" className={`${item} max-md:hidden`} onClick={onKeys}>
        <Keyboard size={16} aria-hidden="true" />
        <span className={label}>Keys</span>
      </button>
      <Link to="/trust" className={`${item} max-md:hidden`}>
        <Scale size={16} aria-hidden="true" />
        <span className={label}>How far to trust it</span>
      </Link>
      <Link to="/settings/me" className={`${item} max-md:hidden`}>
        <Settings2 size={16} aria-hidden="true" />
        <span className={label}>Settings</span>
      </Link>
      <button type="button" className={`${item} max-md:hidden`} onClick={leave}>
        <LogOut size={16} aria-hidden="true" />
        <span className={label}>Sign out</span>
      </button>
      <PhoneMenu onKeys={onKeys} onLeave={leave} session={session} />
      <Drawer open={leaving} onClose={() => setLeaving(false)} title="Something is not sent yet">
        <p>
          {draftsWaiting() === 1
            ? "A draft or sheet of yours waits"
            : `${draftsWaiting()} drafts or sheets of yours wait`}{" "}
          on this device. Signing out clears the device of what is not sent, so that nobody else finds it.
        </p>
        <p className="mt-4 flex flex-wrap gap-2">
          <Button primary onClick={() => setLeaving(false)}>
            Stay and finish
          </Button>
          <Button onClick={() => signOut.mutate()}>Sign out and clear</Button>
        </p>
      </Drawer>
    </div>
  );
}

/** What has no place in the bar of a phone. */
type PhoneProps = FootProps & { onLeave: () => void };

function PhoneMenu({ onKeys, onLeave, session }: PhoneProps) {
  const choose = useChooseWorkshop();
  const system = useStore(systemStore);
  const theme = useStore(themeStore);
  const bay = useStore(bayStore);
  const navigate = useNavigate();
  const catalogue: [string, () => void] = ["Catalogue", () => navigate("/catalogue")];
  const others = session.workshops.filter((row) => row.id !== session.workshop_id);
  const entries: [string, () => void][] = [
    ...(session.role === "driver" ? [] : [catalogue]),
    [`Units: ${system}`, switchUnits],
    [theme === "light" ? "Evening" : "Daylight", switchTheme],
    [bay === "off" ? "Bay mode: large" : "Bay mode: off", switchBay],
    ["Keys", onKeys],
    ["How far to trust it", () => navigate("/trust")],
    ["Settings", () => navigate("/settings/me")],
    ...others.map((row): [string, () => void] => [
      `To ${row.name}`,
      () => choose.mutate({ workshop_id: row.id }),
    ]),
    ["Sign out", onLeave],
  ];
  return (
    <Menu
      align="end"
      label="More"
      className="min-h-11 px-2 py-1.5 md:hidden"
      entries={entries.map(([label, act]) => ({ key: label, label, act }))}
    >
      <Ellipsis size={18} aria-hidden="true" />
    </Menu>
  );
}
