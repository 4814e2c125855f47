// Who practises, how far they are, and what they may do alone: for whoever sends people out.
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { practisingQuery } from "../../api/queries";
import { useHere } from "../../app/session";
import { Head, Trouble, Waiting } from "../../ui/parts";
import { day } from "../../ui/words";
import { PracticeTabs } from "./PracticeTabs";

export function PeoplePage() {
  const { session } = useHere();
  const people = useQuery(practisingQuery);
  const alone =
    people.data?.filter(
      (one) => one.role !== "trainee" || one.sign_offs.some((each) => each.what === "set-up-alone" && each.by),
    ).length ?? 0;
  return (
    <div className="grid gap-4">
      <PracticeTabs />
      {people.isPending && <Waiting what="Loading the people…" />}
      <Trouble error={people.error} />
      {people.data && (
        <>
          <Head
            title={people.data.length ? `${alone} of ${people.data.length} may set up alone` : "Nobody practises yet"}
            sub="Trainees, and everybody else who has practised. Sign off on the page of each."
          />
          {people.data.length > 0 && (
            <section className="card overflow-x-auto px-4 py-2 tab:px-5" tabIndex={0} aria-label="Who practises">
              <table className="w-full min-w-[720px] border-collapse">
                <thead>
                  <tr className="text-left">
                    {["Person", "Crew", "Mastered", "Runs", "Last", "Most frequent habit", "May do alone"].map(
                      (name) => (
                        <th key={name} scope="col" className="sub py-1 pr-4 font-semibold">
                          {name}
                        </th>
                      ),
                    )}
                  </tr>
                </thead>
                <tbody>
                  {people.data.map((one) => (
                    <tr key={one.username} className="border-t border-line" data-person={one.username}>
                      <td className="py-2 pr-4">
                        <Link
                          className="font-semibold underline-offset-4"
                          to={`/practice/progress?person=${one.username}`}
                        >
                          {one.name}
                        </Link>
                      </td>
                      <td className="pr-4">{one.crew ?? ""}</td>
                      <td className="pr-4 font-mono">
                        {one.lessons.filter((lesson) => lesson.mastered).length} of {one.lessons.length}
                      </td>
                      <td className="pr-4 font-mono">{one.runs}</td>
                      <td className="pr-4">{one.last ? day(one.last, session.time_zone) : ""}</td>
                      <td className="pr-4">{one.habits[0]?.label ?? ""}</td>
                      <td>
                        {one.role === "trainee"
                          ? one.sign_offs
                              .filter((each) => each.by)
                              .map((each) => each.label.replace("May ", ""))
                              .join(", ") || "nothing yet"
                          : "all of it"}
                      </td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </section>
          )}
        </>
      )}
    </div>
  );
}
