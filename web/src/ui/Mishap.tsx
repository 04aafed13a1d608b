/** What stands on the screen when drawing it failed: said in words, with the way on, never a blank page. */

import { Component, type ReactNode } from "react";

import { Button, Trouble } from "./controls";

export class Mishap extends Component<{ children: ReactNode }, { failed: boolean }> {
  override state = { failed: false };

  static getDerivedStateFromError() {
    return { failed: true };
  }

  override render() {
    if (!this.state.failed) return this.props.children;
    return (
      <main style={{ padding: 40, display: "grid", gap: 16, justifyItems: "start" }}>
        <Trouble role="alert">
          This screen could not be drawn. What you edited is stored, or held on this device until it is.
        </Trouble>
        <Button onPress={() => location.reload()}>Open it again</Button>
      </main>
    );
  }
}
