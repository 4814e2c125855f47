// A page's script that cannot be fetched: said, and asked for again when the person comes back.
import { act, cleanup, render, screen } from "@testing-library/react";
import { Link, MemoryRouter, Route, Routes } from "react-router";
import { Suspense } from "react";
import { Fallen } from "./Fallen";
import { later } from "./later";

afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

const shown = async (page: ReturnType<typeof later>): Promise<void> => {
  const Page = page;
  await act(() =>
    render(
      <MemoryRouter initialEntries={["/elsewhere"]}>
        <Link to="/page">there</Link>
        <Link to="/elsewhere">back</Link>
        <Fallen>
          <Suspense fallback="waiting">
            <Routes>
              <Route path="/page" element={<Page />} />
              <Route path="/elsewhere" element="elsewhere" />
            </Routes>
          </Suspense>
        </Fallen>
      </MemoryRouter>,
    ),
  );
};
const touch = (name: string) => act(async () => screen.getByText(name).click());

test("what could not be fetched is asked for again on the next visit, and not before", async () => {
  vi.spyOn(console, "error").mockImplementation(() => undefined);
  const fetch = vi
    .fn()
    .mockRejectedValueOnce(new TypeError("Failed to fetch"))
    .mockResolvedValue(() => "the page");
  await shown(later(fetch));
  await touch("there");
  expect(screen.getByRole("heading").textContent).toBe("This page could not be displayed");
  expect(fetch).toHaveBeenCalledTimes(1);
  await touch("back");
  expect(screen.getByText("elsewhere")).toBeTruthy();
  await touch("there");
  expect(screen.getByText("the page")).toBeTruthy();
  expect(fetch).toHaveBeenCalledTimes(2);
});

test("a script asked for ahead is asked for once", async () => {
  const fetch = vi.fn().mockResolvedValue(() => "the page");
  const page = later(fetch);
  page.ahead();
  page.ahead();
  await shown(page);
  await touch("there");
  expect(screen.getByText("the page")).toBeTruthy();
  expect(fetch).toHaveBeenCalledTimes(1);
});
