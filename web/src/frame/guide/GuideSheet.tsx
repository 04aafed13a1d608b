/** Help: the guide, open at the step of the job that one is in; what each figure means; all keys. */

import { type ReactNode, useEffect, useRef, useState } from "react";
import { Dialog, Heading, ToggleButton, ToggleButtonGroup } from "react-aria-components";
import Markdown, { type Components } from "react-markdown";
import remarkGfm from "remark-gfm";
import styled from "styled-components";

import { Button, Shade, Sheet } from "../../ui/controls";
import { Keys } from "./Keys";
import { PAGES, pageAt, pictureAt } from "./pages";
import { Terms } from "./Terms";

const Wide = styled(Sheet)`
  width: min(62rem, 94vw);
`;

const Body = styled.div`
  display: grid;
  grid-template-columns: 9.5rem minmax(0, 1fr);
  gap: 1.25rem;
  align-items: start;
`;

const Contents = styled(ToggleButtonGroup)`
  display: grid;
  gap: 2px;
  button {
    min-height: var(--touch);
    padding: 0 0.625rem;
    text-align: left;
    border: 0;
    border-left: 3px solid transparent;
    background: none;
    cursor: pointer;
  }
  button[data-hovered] {
    color: var(--accent);
  }
  button[data-selected] {
    border-left-color: var(--accent);
    font-weight: 600;
  }
`;

const Text = styled.article`
  display: grid;
  gap: 0.625rem;
  max-height: 74vh;
  overflow-y: auto;
  outline: none;
  line-height: 1.45;
  padding-right: 0.5rem;
  h3 {
    font-weight: 600;
    font-size: 1.125rem;
  }
  h4,
  dt,
  strong {
    font-weight: 600;
  }
  img {
    width: 100%;
    border: 1px solid var(--hair);
  }
  dd {
    margin: 0;
  }
  ul {
    margin: 0;
    padding-left: 1.25rem;
  }
  table {
    border-collapse: collapse;
  }
  td {
    border-top: 1px solid var(--hair);
    padding: 4px 0.75rem 4px 0;
    vertical-align: top;
  }
  blockquote {
    margin: 0;
    padding: 0.5rem 0.75rem;
    border-left: 3px solid var(--line);
    color: var(--quiet);
  }
  p button {
    border: 0;
    padding: 0;
    background: none;
    color: var(--accent);
    text-decoration: underline;
    cursor: pointer;
  }
`;

const OTHERS: readonly (readonly [id: string, name: string, shown: () => ReactNode])[] = [
  ["terms", "What the figures mean", () => <Terms />],
  ["keys", "Keys", () => <Keys />],
];

export default function GuideSheet({ area, onClose }: { area: string; onClose: () => void }) {
  const [shown, setShown] = useState(PAGES.find((one) => one.area === area)?.id ?? "screen");
  return (
    <Shade isOpen isDismissable onOpenChange={(open) => !open && onClose()}>
      <Wide>
        <Dialog>
          <Heading slot="title">Help</Heading>
          <Body>
            <Contents
              aria-label="Pages"
              orientation="vertical"
              disallowEmptySelection
              selectedKeys={[shown]}
              onSelectionChange={(keys) => setShown(String([...keys][0]))}
            >
              {[...PAGES, ...OTHERS.map(([id, name]) => ({ id, name }))].map(({ id, name }) => (
                <ToggleButton key={id} id={id}>
                  {name}
                </ToggleButton>
              ))}
            </Contents>
            <Shown id={shown} onPage={setShown} />
          </Body>
          <Button slot="close">Close</Button>
        </Dialog>
      </Wide>
    </Shade>
  );
}

/** The page, from its top whenever another is gone to. */
function Shown({ id, onPage }: { id: string; onPage: (id: string) => void }) {
  const top = useRef<HTMLElement>(null);
  useEffect(() => {
    if (top.current) top.current.scrollTop = 0;
  }, [id]);
  const page = PAGES.find((one) => one.id === id);
  const other = OTHERS.find(([one]) => one === id);
  return (
    <Text ref={top} tabIndex={0} aria-label={page?.name ?? other?.[1]}>
      <h3>{page?.name ?? other?.[1]}</h3>
      {page && (
        <Markdown remarkPlugins={[remarkGfm]} components={shownAs(onPage)}>
          {page.text}
        </Markdown>
      )}
      {other?.[2]()}
    </Text>
  );
}

/** A link to another page goes there; one out of the guide is words alone. A heading stands below the page's own. */
const shownAs = (onPage: (id: string) => void): Components => ({
  a: ({ href = "", children }) => {
    const to = pageAt(href);
    return to === null ? children : <button onClick={() => onPage(to)}>{children}</button>;
  },
  img: ({ src, alt }) => <img src={pictureAt(String(src))} alt={alt ?? ""} />,
  h2: ({ children }) => <h4>{children}</h4>,
});
