/** The archive being made: how far it is, and handed over when it is done. */

import { useEffect, useRef } from "react";

import { type Schemas } from "../../api/client";
import { useWork } from "../../state/work";
import { Button, Trouble } from "../../ui/controls";
import { give } from "../../ui/giving";

type FileMade = Schemas["FileMade"];
type Asked = Schemas["ShopFilesIn"];

export interface Making {
  /** Begin the archive, which will be called so. */
  begin: (name: string, asked: Asked) => void;
  /** How far it is, to be shown; null where none was begun. */
  shown: React.ReactNode;
}

function save(made: FileMade, name: string) {
  const bytes = Uint8Array.from(atob(made.data), (one) => one.charCodeAt(0));
  give(new Blob([bytes], { type: "application/zip" }), name);
}

export function useShopFiles(id: number): Making {
  const { of, soFar, trouble, begin, end } = useWork<FileMade>("shop_files", id);
  const wanted = useRef(false);
  const made = soFar?.state === "done" ? soFar.result : null;
  useEffect(() => {
    if (!made || !of || !wanted.current) return;
    wanted.current = false; // saved once by itself; of one that was begun before a reload a press saves it
    save(made, of);
  }, [made, of]);
  const going = of !== null && !made && trouble === null;
  const share = soFar?.share ?? 0;
  return {
    begin: (name, asked) => {
      wanted.current = true;
      begin(name, asked);
    },
    shown: (of !== null || trouble !== null) && (
      <div aria-label="Files being made" role="group">
        {going && (
          <>
            <p role="status">{`Making the files: ${Math.round(share * 100)} %`}</p>
            <progress value={share} max={1} aria-label="Files made so far" style={{ width: "100%" }} />
            <Button onPress={end}>Stop making them</Button>
          </>
        )}
        {trouble !== null && <Trouble role="alert">{trouble}</Trouble>}
        {made && of !== null && (
          <p role="status">
            {`${of} is made. `}
            <Button onPress={() => save(made, of)}>Save it</Button>
          </p>
        )}
      </div>
    ),
  };
}
