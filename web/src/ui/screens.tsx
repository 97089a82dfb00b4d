import { NavLink } from "react-router";

import { useMe } from "./me";

const SCREENS = [
  { to: "/", name: "Yard" },
  { to: "/arena", name: "Arena" },
  { to: "/filming", name: "Filming" },
  { to: "/setup", name: "Setup" },
];

/** The way from screen to screen: a line of words. */
export function Screens() {
  const me = useMe();
  const own = SCREENS.filter((s) => s.to !== "/setup" || me.role === "coach");
  const screens = me.at_the_machine ? own : [...own, { to: "/me", name: me.name ?? "You" }];
  return (
    <nav aria-label="Screens" className="flex gap-4 text-sm">
      <span className="text-soft">Umlauf</span>
      {screens.map(({ to, name }) => (
        <NavLink
          key={to}
          to={to}
          className={({ isActive }) =>
            `underline-offset-4 ${isActive ? "text-ink font-medium" : "text-clay underline"}`
          }
        >
          {name}
        </NavLink>
      ))}
    </nav>
  );
}
