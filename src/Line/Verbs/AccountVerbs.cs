using System.CommandLine;
using System.Text.Json;
using YardRelay.Client;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Line.Connections;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <summary>Accounts and where they are signed in: <c>yardline account</c>, <c>session</c>, <c>sign-out</c>.</summary>
internal static class AccountVerbs
{
    public static IEnumerable<Command> Create() => [Accounts(), Groups(), OwnSessions(), Out()];

    private static Command Accounts()
    {
        var key = new Argument<string>("name") { Description = "Name of the account." };
        return new Command("account", "Accounts: who gets in, how far, and where they are signed in.")
        {
            Call.Command("list", "All accounts.", "yardline account list", [], (c, _, _, cancel) => c.AccountsAsync(cancel),
                all => Tables.Show(
                    ["Account", "Name", "Role", "Sites", "Refreshes", "Passkeys", "Signed in at", "Last used", ""],
                    all.Select(a => new[]
                    {
                        a.Name, a.Shown, a.Role, string.Join(", ", a.Sites),
                        a.Refreshes.Count == 0 ? "all" : string.Join(", ", a.Refreshes),
                        $"{a.Passkeys}", $"{a.Sessions}", At(a.SeenAt, ""),
                        a.DisabledAt is { } since ? $"disabled since {At(since, "")}" : a.IsOfOrganisation ? "by the organisation" : ""
                    }),
                    5,
                    6),
                needsRefresh: false),
            Set(key),
            Act("disable", "Nobody gets in by it any more; it is signed out everywhere at once.", key,
                (c, name, cancel) => c.DisableAccountAsync(name, true, cancel), "Account {0} is disabled, and signed out everywhere."),
            Act("enable", "A disabled account gets in again.", key,
                (c, name, cancel) => c.DisableAccountAsync(name, false, cancel), "Account {0} gets in again."),
            Act("sign-out", "Signs it out everywhere.", key,
                (c, name, cancel) => c.SignAccountOutAsync(name, cancel), "Account {0} is signed out everywhere."),
            Act("forget-passkeys", "Takes its passkeys and recovery codes away, which are lost; it is signed out everywhere.", key,
                (c, name, cancel) => c.ForgetPasskeysAsync(name, cancel),
                "Account {0} has no passkeys any more, and is signed out everywhere.",
                "The passkeys and recovery codes of {0} are worth nothing any more."),
            Act("remove", "Removes it for good; what it did stays under its name in the ledger.", key,
                (c, name, cancel) => c.RemoveAccountAsync(name, cancel), "Account {0} is removed.",
                "Account {0} goes for good, with its passkeys and feeds."),
            Password(),
        };
    }

    private static Command Password()
    {
        var now = PasswordFile.Option("--password-file", "the password of now, else YARD_PASSWORD");
        var wanted = PasswordFile.Option("--new-password-file", "the new one, else YARD_NEW_PASSWORD");
        return Call.Command<string>(
            "password",
            "Another password for your own account.",
            "yardline account password --password-file now.txt --new-password-file new.txt",
            [now, wanted],
            async (c, _, a, cancel) =>
            {
                if (!PasswordFile.Read(a.GetValue(now), "YARD_PASSWORD").TryGet(out var before, out var problem)) return problem;
                if (!PasswordFile.Read(a.GetValue(wanted), "YARD_NEW_PASSWORD").TryGet(out var after, out problem)) return problem;
                return Of(
                    await c.ChangePasswordAsync(new(before ?? "", after ?? ""), cancel),
                    "The new password counts. You are signed out everywhere but here.");
            },
            Tables.Say,
            needsRefresh: false);
    }

    private static Command Set(Argument<string> key)
    {
        var shown = new Option<string>("--name") { Description = "Name for people.", Required = true };
        var role = new Option<string>("--role") { Description = "coordinator, technician, auditor or person.", Required = true };
        var served = new Option<string[]>("--site")
        {
            Description = "For a technician: a site served; repeat for more.",
            AllowMultipleArgumentsPerToken = true
        };
        var person = new Option<string?>("--person") { Description = "For a person: their key in the roster of the one refresh." };
        var reached = new Option<string[]>("--for-refresh")
        {
            Description = "A refresh that it reaches; repeat for more, or 'all'. Where none is said, it stays; a new one reaches all, a "
                + "person the one that you work on.",
            AllowMultipleArgumentsPerToken = true
        };
        var file = PasswordFile.Option("--new-password-file", "its password, else YARD_NEW_PASSWORD; where neither says one, it stays");
        return Call.Command<string>(
            "set",
            "Makes or changes an account.",
            "yardline account set noor --name 'Noor Haddad' --role technician --site 'North Quay' --new-password-file noor.txt",
            [key, shown, role, served, person, reached, file],
            async (c, here, a, cancel) =>
            {
                if (!PasswordFile.Read(a.GetValue(file), "YARD_NEW_PASSWORD").TryGet(out var password, out var problem)) return problem;
                IReadOnlyList<string>? refreshes = a.GetValue(reached) switch
                {
                    ["all"] => [],
                    { Length: > 0 } said => said,
                    _ => a.GetValue(person) is null || here.Length == 0 ? null : [here],
                };
                var wanted = new AccountWanted(
                    a.GetValue(shown)!, a.GetValue(role)!, password, a.GetValue(served) ?? [], a.GetValue(person), refreshes);
                return Of(await c.PutAccountAsync(a.GetValue(key)!, wanted, cancel), $"Account {a.GetValue(key)} is set.");
            },
            Tables.Say,
            needsRefresh: false);
    }

    private static Command Groups()
    {
        var yes = Sure.Option;
        var group = new Argument<string>("group") { Description = "The group, as the identity provider names it." };
        var role = new Option<string>("--role") { Description = "coordinator, technician or auditor.", Required = true };
        var served = new Option<string[]>("--site")
        {
            Description = "For technicians: a site served; repeat for more.",
            AllowMultipleArgumentsPerToken = true
        };
        var reached = new Option<string[]>("--for-refresh")
        {
            Description = "A refresh that they reach; repeat for more. Left out: all.",
            AllowMultipleArgumentsPerToken = true
        };
        return new Command("staff-group", "What groups at the organisation's identity provider open here.")
        {
            Call.Command("list", "All groups that open something.", "yardline staff-group list", [],
                (c, _, _, cancel) => c.StaffGroupsAsync(cancel),
                all => Tables.Show(
                    ["Group", "Role", "Sites", "Refreshes"],
                    all.Select(g => new[]
                    {
                        g.Name, g.Role, string.Join(", ", g.Sites), g.Refreshes.Count == 0 ? "all" : string.Join(", ", g.Refreshes)
                    })),
                needsRefresh: false),
            Call.Command<string>("set", "Says what a group opens, for all who came in by it at once.",
                "yardline staff-group set 'IT North Quay' --role technician --site 'North Quay'",
                [group, role, served, reached],
                async (c, _, a, cancel) => Of(
                    await c.PutStaffGroupAsync(
                        a.GetValue(group)!, new(a.GetValue(role)!, a.GetValue(served), a.GetValue(reached)), cancel),
                    $"Group {a.GetValue(group)} opens that now."),
                Tables.Say,
                needsRefresh: false),
            Call.Command<string>("remove", "A group opens nothing any more; whoever came in by it alone is signed out.",
                "yardline staff-group remove 'IT North Quay' --yes",
                [group, yes],
                async (c, _, a, cancel) =>
                    Sure.Against(a, yes, $"Whoever came in by the group {a.GetValue(group)} alone is signed out.") is { } no
                        ? no
                        : Of(
                            await c.RemoveStaffGroupAsync(a.GetValue(group)!, cancel),
                            $"Group {a.GetValue(group)} opens nothing any more."),
                Tables.Say,
                needsRefresh: false),
        };
    }

    private static Command OwnSessions()
    {
        var id = new Argument<string>("id") { Description = "Its id, as 'yardline session list' shows it." };
        return new Command("session", "Where your account is signed in.")
        {
            Call.Command("list", "Browsers and programs, last used first.", "yardline session list", [],
                (c, _, _, cancel) => c.SessionsAsync(cancel),
                all => Tables.Show(
                    ["Id", "", "What", "Since", "Last used", "Ends"],
                    all.Select(s => new[]
                    {
                        s.Id, s.IsThis ? "this one" : s.IsBrowser ? "browser" : "", s.Label, At(s.MadeAt, "?"), At(s.SeenAt, "?"),
                        At(s.Ends, "")
                    })),
                needsRefresh: false),
            Call.Command<string>("end", "Signs one of them out.", "yardline session end 0f3c9a1b2c3d4e5f", [id],
                async (c, _, a, cancel) => Of(await c.EndSessionAsync(a.GetValue(id)!, cancel), "It is signed out."),
                Tables.Say,
                needsRefresh: false),
            Call.Command<string>("end-others", "Signs out all but this one.", "yardline session end-others", [],
                async (c, _, _, cancel) => Of(await c.EndOtherSessionsAsync(cancel), "All others are signed out."),
                Tables.Say,
                needsRefresh: false),
        };
    }

    private static Command Out() => Call.Command<string>(
        "sign-out",
        "Signs this command line out: its token opens nothing any more, and is forgotten here.",
        "yardline sign-out",
        [],
        async (c, _, _, cancel) =>
        {
            var answer = await c.SignOutAsync(cancel);
            var wasOut = !answer.IsOk && answer.Problem is Refused { Status: 401 };
            if (answer.IsOk || wasOut) Connection.Forget();
            return wasOut ? "You were signed out already." : Of(answer, "Signed out.");
        },
        Tables.Say,
        needsRefresh: false);

    private static Command Act(
        string name, string does, Argument<string> key, Func<YardClient, string, CancellationToken, Task<Result<JsonElement>>> work,
        string said, string? asks = null)
    {
        var yes = Sure.Option;
        return Call.Command<string>(
            name, does, $"yardline account {name} noor{(asks is null ? "" : " --yes")}", asks is null ? [key] : [key, yes],
            async (c, _, a, cancel) =>
            {
                string Named(string text) => text.Replace("{0}", a.GetValue(key)!, StringComparison.Ordinal);
                return asks is not null && Sure.Against(a, yes, Named(asks)) is { } no
                    ? no
                    : Of(await work(c, a.GetValue(key)!, cancel), Named(said));
            },
            Tables.Say,
            needsRefresh: false);
    }

    private static Result<string> Of(Result<JsonElement> answer, string said) =>
        answer.IsOk ? said : Result<string>.Failed(answer.Problems);

    private static string At(DateTimeOffset? at, string never) => at is { } then ? $"{then.OnClock():ddd d MMM HH:mm}" : never;
}
