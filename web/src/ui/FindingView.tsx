// A finding: grade and limit, then the sentence, then the bar, then why and its effect. The same on bench and record.
import type { Result } from "../api/client";
import { GradeMark, LimitBar } from "./icons";
import { Terms } from "./Terms";

export function FindingView({ result }: { result: Result }) {
  const { verdict, finding, work } = result;
  const part = verdict.parts[0];
  return (
    <div className="grid gap-3" data-finding={verdict.grade}>
      <div className="flex flex-wrap items-center justify-between gap-x-4 gap-y-1">
        <GradeMark grade={verdict.grade} />
        <span className="sub">{part?.limit_text}</span>
      </div>
      <p className="text-[1.4rem] font-semibold leading-[1.22] text-pretty">{finding.text}</p>
      {part && <LimitBar value={part.value} u95={part.u95} limit={part.limits.use} label={finding.text} width={360} />}
      <ul className="m-0 grid list-none gap-1 p-0">
        {verdict.reasons.map((reason) => (
          <li key={reason.code + reason.text} data-reason={reason.code}>
            <Terms text={reason.text} />
          </li>
        ))}
        {work[0] && <li>{work[0].text}</li>}
      </ul>
    </div>
  );
}

export function NextSteps({ result }: { result: Result }) {
  return (
    <ul className="m-0 grid list-none gap-1 border-t-2 border-ink p-0 pt-3">
      {result.verdict.next.map((each, i) => (
        <li key={each.code} data-next={each.code} className={i === 0 ? "font-semibold" : ""}>
          {each.text}
        </li>
      ))}
    </ul>
  );
}
