import { afterEach, beforeEach, describe, expect, it } from "vitest";

import { number, numeric } from "../document/typed";
import { Sizes } from "../panels/Sizes";
import { find, press, settle, shown, type as typeInto } from "../testing/screen";
import { useDesign } from "./design";
import { useDraft } from "./drafts";
import { usePreferences } from "./preferences";

const BLANK = { what: "", where: "" };

function Form() {
  const [texts, setTexts] = useDraft("job", BLANK);
  return (
    <form>
      <label>
        What
        <input value={texts.what} onChange={(event) => setTexts({ ...texts, what: event.target.value })} />
      </label>
      <button type="button" onClick={() => setTexts(BLANK)}>
        Give
      </button>
    </form>
  );
}

const open = (design: number) => useDesign.setState({ stored: { design } as never });
const field = () => find<HTMLInputElement>("input");

async function typed(text: string) {
  const { leave } = await shown(<Form />);
  await typeInto(field(), text);
  leave();
}

async function standing(): Promise<string> {
  const { leave } = await shown(<Form />);
  await settle();
  const { value } = field();
  leave();
  return value;
}

beforeEach(() => open(7));

afterEach(() => {
  useDesign.setState({ stored: null });
  usePreferences.setState({ units: "in16" });
  sessionStorage.clear();
  localStorage.clear();
});

describe("what is typed and not yet given", () => {
  it("stands there again after the page was left, also in another tab", async () => {
    await typed("brake line");
    expect(await standing()).toBe("brake line");
    sessionStorage.clear();
    expect(await standing()).toBe("brake line");
  });

  it("is this tab's own first", async () => {
    await typed("brake line");
    localStorage.setItem("oak-lever draft 7 job", JSON.stringify({ what: "tank", where: "" }));
    expect(await standing()).toBe("brake line");
  });

  it("is of the open design alone", async () => {
    await typed("brake line");
    open(8);
    expect(await standing()).toBe("");
  });

  it("goes with the other design where that is opened on the same page", async () => {
    await typed("brake line");
    open(8);
    const { leave } = await shown(<Form />);
    expect(field().value).toBe("");
    open(7);
    await settle();
    expect(field().value).toBe("brake line");
    leave();
  });

  it("is gone once it is given", async () => {
    await typed("brake line");
    await typed("");
    expect(await standing()).toBe("");
    expect(sessionStorage.length + localStorage.length).toBe(0);
  });

  it("is not taken up in a shape that the form no longer has, nor where it can't be read", async () => {
    for (const kept of ['{"what":"tank"}', "[]", '"tank"', "{", "null"]) {
      localStorage.setItem("oak-lever draft 7 job", kept);
      expect(await standing()).toBe("");
    }
  });

  it("of sizes stays with the part and with the units that they were typed in", async () => {
    const taken: number[] = [];
    const sizes = (of: string) => (
      <Sizes<number>
        of={of}
        fields={[numeric("long", "Long", "300", number, (_, value) => value)]}
        part={300}
        onWhy={() => undefined}
        onTake={(value) => Promise.resolve(taken.push(value) > 0)}
      />
    );
    const standsAt = async (of: string) => {
      const { leave } = await shown(sizes(of));
      const { value } = field();
      leave();
      return value;
    };
    usePreferences.setState({ units: "mm" });
    const first = await shown(sizes("strap-left"));
    await typeInto(field(), "280");
    first.leave();
    expect(await standsAt("strap-left")).toBe("280");
    expect(await standsAt("strap-right")).toBe("300");
    usePreferences.setState({ units: "in16" });
    expect(await standsAt("strap-left")).toBe("300");
    usePreferences.setState({ units: "mm" });
    const again = await shown(sizes("strap-left"));
    await press("Take these sizes");
    again.leave();
    expect(taken).toEqual([280]);
    expect(await standsAt("strap-left")).toBe("300");
  });
});
