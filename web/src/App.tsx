/** Where each screen is found. */

import { lazy, type ReactNode, Suspense, useEffect } from "react";
import { BrowserRouter, Link, Navigate, Route, Routes } from "react-router";
import styled from "styled-components";

import { fetchRegister, useRegister } from "./api/register";
import { NO_SERVER } from "./api/client";
import { Home } from "./areas/home/Home";
import { Links } from "./areas/links/Links";
import { Room } from "./areas/room/Room";
import { Truck } from "./areas/truck/Truck";
import { Header } from "./frame/Header";
import { Mishap } from "./frame/Mishap";
import { Outdated } from "./frame/Outdated";
import { usePreferences } from "./state/preferences";
import { Shell } from "./frame/Shell";
import { Waiting } from "./frame/Waiting";
import { Trouble } from "./ui/controls";
import { GlobalStyle } from "./ui/theme";

const Cycle = lazy(async () => ({ default: (await import("./areas/cycle/Cycle")).Cycle }));
const Corners = lazy(async () => ({ default: (await import("./areas/corners/Corners")).Corners }));
const CutSheet = lazy(async () => ({ default: (await import("./areas/cut/CutSheet")).CutSheet }));
const FitUp = lazy(async () => ({ default: (await import("./areas/fitup/FitUp")).FitUp }));
const Weigh = lazy(async () => ({ default: (await import("./areas/weigh/Weigh")).Weigh }));

const Nothing = styled.main`
  padding: 2.5rem;
  a {
    color: var(--accent);
  }
`;

/** Nothing is drawn before the register is there: it has every name. */
function Registered({ children }: { children: ReactNode }) {
  const { register, lost } = useRegister();
  useEffect(() => void fetchRegister(), []);
  if (register) return children;
  return (
    <Nothing>
      {lost ? <Trouble role="alert">{NO_SERVER}</Trouble> : <p role="status">Fetching the figures…</p>}
    </Nothing>
  );
}

/** An area that is fetched when it is first gone to. */
const Later = ({ of }: { of: ReactNode }) => (
  <Suspense
    fallback={
      <Nothing>
        <p role="status">Fetching it…</p>
      </Nothing>
    }
  >
    {of}
  </Suspense>
);

function Nowhere() {
  return (
    <>
      <Header />
      <Nothing>
        Nothing stands here. <Link to="/">Go to the builds</Link>.
      </Nothing>
    </>
  );
}

export function App() {
  const theme = usePreferences((s) => s.theme);
  useEffect(() => {
    document.documentElement.dataset["theme"] = theme;
  }, [theme]);
  return (
    <>
      <GlobalStyle />
      <Outdated />
      <Waiting />
      <Mishap>
        <Registered>
          <BrowserRouter>
            <Routes>
              <Route path="/" element={<Home />} />
              <Route path="/designs/:id" element={<Shell />}>
                <Route index element={<Navigate to="links" replace />} />
                <Route path="links" element={<Links />} />
                <Route path="room" element={<Room />} />
                <Route path="cycle" element={<Later of={<Cycle />} />} />
                <Route path="corners" element={<Later of={<Corners />} />} />
                <Route path="weigh" element={<Later of={<Weigh />} />} />
                <Route path="cut" element={<Later of={<CutSheet />} />} />
                <Route path="fit-up" element={<Later of={<FitUp />} />} />
                <Route path="truck" element={<Truck />} />
              </Route>
              <Route path="*" element={<Nowhere />} />
            </Routes>
          </BrowserRouter>
        </Registered>
      </Mishap>
    </>
  );
}
