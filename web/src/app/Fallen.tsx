// A page that fell over: said plainly, with the way back; drafts are on the device and not touched.
import { Component, type ReactNode } from "react";
import { useLocation } from "react-router";

type State = { fallen: boolean; at: string };

/** Another address is another page: what fell over stays behind. */
class Boundary extends Component<{ at: string; children: ReactNode }, State> {
  state: State = { fallen: false, at: this.props.at };
  static getDerivedStateFromError = () => ({ fallen: true });
  static getDerivedStateFromProps = ({ at }: { at: string }, state: State) =>
    at === state.at ? null : { fallen: false, at };
  render = () => (this.state.fallen ? <Notice /> : this.props.children);
}

export function Fallen({ children }: { children: ReactNode }) {
  return <Boundary at={useLocation().key}>{children}</Boundary>;
}

function Notice() {
  return (
    <main className="mx-auto grid max-w-[620px] gap-4 p-8">
      <h1>This page could not be displayed</h1>
      <p>Your entries are stored on this device. Reload the page; if that does not help, go back to the yard.</p>
      <div className="flex gap-3">
        <button className="btn" onClick={() => location.reload()}>
          Reload
        </button>
        <a className="btn" href="/">
          To the yard
        </a>
      </div>
    </main>
  );
}
