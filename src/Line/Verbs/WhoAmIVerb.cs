using System.CommandLine;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Line.Connections;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <summary><c>yardline whoami</c>: as whom, where, and for which refresh the next command works.</summary>
internal static class WhoAmIVerb
{
    /// <param name="Refresh">The one that is meant where none is named; null: it is to be named where there are several.</param>
    private sealed record Here(Me Me, string Service, string? Refresh);

    public static Command Create() => Call.Command(
        "whoami",
        "As whom this command line is signed in, where, and which refresh it means.",
        "yardline whoami",
        [],
        async (c, _, a, cancel) =>
        {
            if (!(await c.MeAsync(cancel)).TryGet(out var me, out var problem)) return problem;
            var connection = Connection.Read();
            return Result<Here>.Of(new(me, connection?.Service ?? "", a.GetValue(Call.Refresh) ?? connection?.Refresh));
        },
        here =>
        {
            Tables.Say($"{here.Me.Shown} ({here.Me.Name}), {here.Me.Role}, at {here.Service}.");
            if (here.Me.Sites.Count > 0) Tables.Say($"At the sites {string.Join(", ", here.Me.Sites)}.");
            if (here.Me.Refreshes.Count > 0) Tables.Say($"In the refreshes {string.Join(", ", here.Me.Refreshes)}.");
            Tables.Say(here.Refresh is { } refresh
                ? $"Commands mean the refresh {refresh}; --refresh KEY means another."
                : "Commands mean the only refresh that there is; where there are several, --refresh KEY says which.");
        },
        needsRefresh: false);
}
