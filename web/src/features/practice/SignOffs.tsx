// What somebody may do alone: by whom it was signed off and when. Given and taken back by a chief.
import { useQueryClient } from "@tanstack/react-query";
import { fetchAgain } from "../../api/again";
import { type Schemas, send } from "../../api/client";
import { useHere, usePerson } from "../../app/session";
import { Trouble } from "../../ui/parts";
import { day } from "../../ui/words";
import { useTrouble } from "../../ui/refusal";

export function SignOffs({ progress }: { progress: Schemas["PracticeProgress"] }) {
  const { may, session } = useHere();
  const { username } = usePerson();
  const queries = useQueryClient();
  const [error, setError] = useTrouble();
  const others = may("sign-off").allowed && progress.username !== username;
  const change = async (what: string, given: boolean) => {
    setError(null);
    try {
      if (given) await send("DELETE", `/api/practice/sign-offs/${progress.username}/${what}`, {});
      else await send("POST", "/api/practice/sign-offs", { username: progress.username, what });
    } catch (wrong) {
      setError(wrong);
    }
    await fetchAgain(queries, { queryKey: ["practice"] });
  };
  return (
    <section className="card p-4 tab:p-5" aria-label="May do alone">
      <h2>May do alone</h2>
      {progress.role !== "trainee" && (
        <p className="sub">
          As {progress.role === "manager" ? "a manager" : "a crew member"}: all of it, without a sign-off.
        </p>
      )}
      <ul className="m-0 list-none p-0">
        {progress.sign_offs.map((each) => (
          <li
            key={each.what}
            className="flex flex-wrap items-center justify-between gap-x-4 border-t border-line py-1"
            data-sign-off={each.what}
            data-given={each.by !== null}
          >
            <span className="min-w-0">
              <b className="font-semibold">{each.label}</b>
              <span className="sub block">
                {each.by && each.at ? `${each.by}, ${day(each.at, session.time_zone)}` : "not signed off"}
              </span>
            </span>
            {others && (
              <button
                className="btn !min-h-[44px]"
                aria-label={`${each.by ? "Take back" : "Sign off"}: ${each.label}`}
                onClick={() => void change(each.what, each.by !== null)}
              >
                {each.by ? "Take back" : "Sign off"}
              </button>
            )}
          </li>
        ))}
      </ul>
      <Trouble error={error} />
    </section>
  );
}
