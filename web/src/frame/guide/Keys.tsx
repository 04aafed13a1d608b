/** All keys, on one sheet. */

import { Dialog, Heading } from "react-aria-components";
import styled from "styled-components";

import { Button, Shade, Sheet } from "../ui/controls";
import { KEYS } from "./keys";

const Body = styled.div`
  display: grid;
  gap: 0.75rem;
  h3 {
    font-weight: 600;
    font-size: 0.9375rem;
  }
  dl {
    margin: 2px 0 0;
    display: grid;
    grid-template-columns: 9em minmax(0, 1fr);
    gap: 2px 0.75rem;
  }
  dd {
    margin: 0;
  }
  dt {
    font-weight: 600;
  }
`;

export function KeysSheet({ onClose }: { onClose: () => void }) {
  return (
    <Shade isOpen isDismissable onOpenChange={(open) => !open && onClose()}>
      <Sheet>
        <Dialog>
          <Heading slot="title">Keys</Heading>
          <Body>
            {KEYS.map(([where, keys]) => (
              <div key={where}>
                <h3>{where}</h3>
                <dl>
                  {keys.map(([key, does]) => [<dt key={key}>{key}</dt>, <dd key={`${key} does`}>{does}</dd>])}
                </dl>
              </div>
            ))}
            <Button slot="close">Close</Button>
          </Body>
        </Dialog>
      </Sheet>
    </Shade>
  );
}
