// What surrounds every screen: the name, the person, the theme, the shortcuts, the connection.

import { useQuery } from "@tanstack/react-query";
import { Contrast, Keyboard, LogOut } from "lucide-react";
import { useState } from "react";
import { Link, Navigate, NavLink, Outlet, useLocation, useNavigate } from "react-router";
import { answer, client } from "../../api/client";
import { useReachable } from "../../api/connection";
import { keys } from "../../api/keys";
import { useRights, useSettings, useSignOut, useVisitor } from "../../api/session";
import { Button } from "../../ui/button";
import { useKey } from "../../ui/keys";
import { otherTheme } from "../../ui/theme";
import { words } from "../../words";
import { PasswordFirst } from "../account/account-page";
import { SignInAgain } from "../sign-in/sign-in-again";
import { SignInPage } from "../sign-in/sign-in-page";
import { useLeaving } from "./leaving";
import { Palette } from "./palette";
import { Shortcuts } from "./shortcuts";
import { homeFor, looksAtForms, placeFor } from "./stages";

const t = words("frame");

export function Frame() {
  const visitor = useVisitor();
  const navigate = useNavigate();
  // Whoever comes next does not arrive where somebody else was.
  const signOut = useSignOut(() => navigate("/"));
  const { leave, asking } = useLeaving(signOut);
  const [shortcuts, setShortcuts] = useState(false);
  useKey("?", () => setShortcuts(true));
  const { choose } = useSettings();
  const switchTheme = () => choose({ theme: otherTheme() });

  if (!visitor.data) return <LostConnection />;
  if (!visitor.data.name) return <SignInPage />;
  const first = visitor.data.must_change_password;
  const { rights } = visitor.data;
  return (
    // Another person finds another screen: nothing of what was typed is carried over.
    <div key={visitor.data.name} className="flex min-h-screen flex-col">
      <a href="#main" className="sr-only focus:not-sr-only focus:p-2">
        {t("skip_to_the_content")}
      </a>
      <header className="flex items-center gap-6 border-b border-hairline bg-leaf px-6 py-2">
        <Link to="/" className="flex items-center gap-2 font-serif text-xl">
          <img src="/mark.svg" alt="" width="24" height="24" />
          {t("thistlequartz")}
        </Link>
        <nav aria-label={t("main")} className="flex gap-4">
          {rights.includes("write_records") && <Top to="/desk">{t("desk")}</Top>}
          {looksAtForms(rights) && <Top to="/forms">{t("forms")}</Top>}
          <Top to="/outbox">{t("mail")}</Top>
          {rights.includes("manage_people") && <Top to="/people">{t("people")}</Top>}
        </nav>
        <p className="ml-auto text-muted">
          <Link
            to="/account"
            title={t("my_account")}
            className="hover:text-thistle hover:underline"
          >
            {visitor.data.shown_name}
          </Link>
          , <span className="italic">{visitor.data.role}</span>
        </p>
        <div className="flex">
          <Button
            look="quiet"
            aria-label={t("keyboard_shortcuts")}
            onClick={() => setShortcuts(true)}
          >
            <Keyboard size={18} aria-hidden="true" />
          </Button>
          <Button look="quiet" aria-label={t("switch_light_and_dark")} onClick={switchTheme}>
            <Contrast size={18} aria-hidden="true" />
          </Button>
          <Button look="quiet" onClick={leave}>
            <LogOut size={18} aria-hidden="true" /> {t("sign_out")}
          </Button>
        </div>
      </header>
      <LostConnection />
      {first ? <PasswordFirst /> : <Outlet />}
      <Palette
        onShortcuts={() => setShortcuts(true)}
        onSignOut={leave}
        onSwitchTheme={switchTheme}
      />
      {asking}
      <Shortcuts open={shortcuts} onOpenChange={setShortcuts} />
      <SignInAgain here={visitor.data} />
    </div>
  );
}

function Top({ to, children }: { to: string; children: string }) {
  return (
    <NavLink
      to={to}
      className={({ isActive }) =>
        `px-1 py-1 hover:text-thistle ${isActive ? "font-semibold" : ""}`
      }
    >
      {children}
    </NavLink>
  );
}

/** Everybody lands where their work is; an address of before leads on with what it asks. */
export function Landing({ inForm = false }: { inForm?: boolean }) {
  const rights = useRights();
  const { search } = useLocation();
  return <Navigate to={`${inForm ? placeFor(rights) : homeFor(rights)}${search}`} replace />;
}

function LostConnection() {
  const reachable = useReachable();
  useQuery({
    queryKey: keys.reachable,
    queryFn: () => answer(client.GET("/api/v1/session")),
    enabled: !reachable,
    refetchInterval: 2000,
    retry: false,
  });
  if (reachable) return null;
  return (
    // Over the page, so that nothing moves under a hand, and no press is caught by it.
    <p
      role="alert"
      className="pointer-events-none fixed top-2 left-1/2 z-50 -translate-x-1/2 rounded-xs border border-madder bg-tint px-4 py-1.5 shadow-lg"
    >
      {t("the_server_cannot_be_reached_it_is")}
    </p>
  );
}
