/** What stands on the screen when drawing it failed: said in words, with the way on, never a blank page. */

import { Component, type ReactNode } from "react";

import { Button, Trouble } from "../ui/controls";
import { useDesign } from "../state/design";

export class Mishap extends Component<{ children: ReactNode }, { failed: boolean; why: string }> {
  override state = { failed: false, why: "" };

  static getDerivedStateFromError() {
    return { failed: true };
  }

  goBack = async () => {
    const went = await useDesign.getState().goBack();
    this.setState({ failed: !went, why: went ? "" : "There is nothing before it to go back to." });
  };

  override render() {
    if (!this.state.failed) return this.props.children;
    const open = useDesign.getState().document !== null;
    return (
      <main style={{ padding: 40, display: "grid", gap: 16, justifyItems: "start" }}>
        <Trouble role="alert">
          This screen could not be drawn. What you edited is stored, or held on this device until it is.
          {this.state.why && ` ${this.state.why}`}
        </Trouble>
        {open && (
          <>
            <p>Going back stores the design anew as it was; what can’t be drawn stays in its history.</p>
            <Button className="main" onPress={() => void this.goBack()}>
              Go back to the last that could be drawn
            </Button>
          </>
        )}
        <Button onPress={() => location.reload()}>Open it again</Button>
      </main>
    );
  }
}
