/** A design at a glance: its side view at ride height. */

import { useEffect, useState } from "react";

import { server } from "../../api/client";
import { type Document, spotsOf } from "../../document/document";
import { Plate } from "../../floor/Plate";

const WIDTH = 300;
const HEIGHT = 150;

export function Thumbnail({ id }: { id: number }) {
  const [document, setDocument] = useState<Document | null>(null);
  useEffect(() => {
    let wanted = true;
    server
      .design(id)
      .then(({ data }) => data && wanted && setDocument(data.document))
      .catch(() => undefined); // the card stands without its picture; Home itself says that the server is gone
    return () => {
      wanted = false;
    };
  }, [id]);
  const cell = { width: WIDTH, height: HEIGHT };
  if (!document) return <svg {...cell} aria-hidden="true" />;
  const xs = spotsOf(document).map((m) => m.at[0]);
  const r = document.axle.tire_diameter / 2;
  const [low, high] = [Math.min(...xs, -r) - 90, Math.max(...xs, r) + 90];
  const top = document.axle.tire_radius_loaded + r;
  const aim = {
    middle: [(low + high) / 2, 0, top / 2 - 20] as [number, number, number],
    scale: Math.min(WIDTH / (high - low), HEIGHT / (top + 110)),
  };
  return <Plate document={document} view="side" aim={aim} cell={cell} />;
}
