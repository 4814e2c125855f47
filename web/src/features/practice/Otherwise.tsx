// The one thing to do otherwise after a lesson, and the habits that were seen.
import { written } from "../../api/writing";

export function Otherwise({
  text,
  habits,
  none = "",
}: {
  text: string;
  habits: { code: string; text: string }[];
  none?: string;
}) {
  return (
    <section className="card grid gap-2 p-4 tab:p-5" aria-label="What to do otherwise">
      <h2>{written(text)}</h2>
      <ul className="m-0 grid gap-1 pl-5" data-habits={habits.map((habit) => habit.code).join(" ")}>
        {habits.map((habit) => (
          <li key={habit.code}>{habit.text}</li>
        ))}
      </ul>
      {none && !habits.length && <p className="sub">{none}</p>}
    </section>
  );
}
