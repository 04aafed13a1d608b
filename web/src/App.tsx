/** Where each screen is found. */

import { useEffect } from "react";
import { BrowserRouter, Link, Navigate, Route, Routes, useParams } from "react-router";
import styled from "styled-components";

import { Home } from "./areas/home/Home";
import { LinksScreen } from "./areas/links/LinksScreen";
import { Header } from "./ui/Header";
import { Mishap } from "./ui/Mishap";
import { usePreferences } from "./ui/preferences";
import { GlobalStyle } from "./ui/theme";

const Nothing = styled.main`
  padding: 40px;
  a {
    color: var(--accent);
  }
`;

function ToLinks() {
  return <Navigate to={`/designs/${useParams()["id"] ?? ""}/links`} replace />;
}

export function App() {
  const theme = usePreferences((s) => s.theme);
  useEffect(() => {
    document.documentElement.dataset["theme"] = theme;
  }, [theme]);
  return (
    <>
      <GlobalStyle />
      <Mishap>
        <BrowserRouter>
          <Routes>
            <Route path="/" element={<Home />} />
            <Route path="/designs/:id" element={<ToLinks />} />
            <Route path="/designs/:id/links" element={<LinksScreen />} />
            <Route
              path="*"
              element={
                <>
                  <Header />
                  <Nothing>
                    Nothing stands here. <Link to="/">Go to the builds</Link>.
                  </Nothing>
                </>
              }
            />
          </Routes>
        </BrowserRouter>
      </Mishap>
    </>
  );
}
