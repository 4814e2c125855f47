// The figures of a result as rows of a list: what it is, its value, how sure.
import type { Result } from "../api/client";

export function ShownRows({ shown }: { shown: Result["shown"] }) {
  return shown.map((each) => (
    <div key={each.quantity} className="contents">
      <dt className="sub">{each.label}</dt>
      <dd className="m-0 text-right font-semibold">
        {each.text}
        {each.plus_minus && <span className="sub font-normal"> ±&nbsp;{each.plus_minus}</span>}
      </dd>
    </div>
  ));
}
