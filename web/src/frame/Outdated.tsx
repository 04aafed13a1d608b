/** This tab's page is older than the one that is served: it goes on working, and says so. */

import { useEffect, useState } from "react";
import styled from "styled-components";

import { onOutdated } from "../api/client";
import { Button } from "../ui/controls";

const Strip = styled.div`
  position: fixed;
  left: 50%;
  bottom: 0.75rem;
  transform: translateX(-50%);
  z-index: 30;
  display: flex;
  gap: 0.75rem;
  align-items: center;
  padding: 0.5rem 0.875rem;
  border: 1px solid var(--accent);
  border-radius: 4px;
  background: var(--accent-soft);
`;

export function Outdated() {
  const [old, setOld] = useState(false);
  useEffect(() => onOutdated(() => setOld(true)), []);
  return old ? (
    <Strip role="status">
      A newer Oak Lever is being served. What you did is stored; load its page when it suits you.
      <Button onPress={() => location.reload()}>Load it</Button>
    </Strip>
  ) : null;
}
