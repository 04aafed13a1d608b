/** A drawing on the page as a file of its own: SVG, or PNG for a message. */

import { give, plainName } from "../../ui/giving";

const VARIABLE = /var\((--[a-z-]+)\)/g;

/** The drawing with its colors written out: a file has no page to ask. */
export function standalone(svg: SVGSVGElement, valueOf: (name: string) => string): string {
  const copy = svg.cloneNode(true) as SVGSVGElement;
  const [, , wide, high] = (svg.getAttribute("viewBox") ?? "0 0 100 100").split(" ");
  copy.setAttribute("xmlns", "http://www.w3.org/2000/svg");
  copy.setAttribute("width", wide!);
  copy.setAttribute("height", high!);
  copy.setAttribute("font-family", "sans-serif");
  copy.removeAttribute("class");
  const text = new XMLSerializer().serializeToString(copy);
  const back = `<rect width="${wide!}" height="${high!}" fill="${valueOf("--sheet")}"/>`;
  return text.replace(VARIABLE, (_, name: string) => valueOf(name)).replace(/>/, `>${back}`);
}

const PNG_SCALE = 2;

/** Save the drawing; PNG at twice its size. */
export function saved(svg: SVGSVGElement | null, kind: "svg" | "png", name: string): void {
  if (!svg) return;
  const style = getComputedStyle(document.documentElement);
  const text = standalone(svg, (variable) => style.getPropertyValue(variable).trim() || "#000");
  const file = `${plainName(name)}-cycle.${kind}`;
  const source = new Blob([text], { type: "image/svg+xml" });
  if (kind === "svg") {
    give(source, file);
    return;
  }
  const image = new Image();
  const address = URL.createObjectURL(source);
  image.onload = () => {
    const canvas = document.createElement("canvas");
    [canvas.width, canvas.height] = [image.width * PNG_SCALE, image.height * PNG_SCALE];
    canvas.getContext("2d")?.drawImage(image, 0, 0, canvas.width, canvas.height);
    canvas.toBlob((blob) => blob && give(blob, file), "image/png");
    URL.revokeObjectURL(address);
  };
  image.src = address;
}
