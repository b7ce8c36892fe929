using System.CommandLine;
using System.Globalization;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <summary>How people choose their times: <c>yardline choosing</c>, <c>yardline group</c>.</summary>
internal static class ChoosingVerbs
{
    public static IEnumerable<Command> Create() => [Choosing(), Group()];

    private static Command Choosing()
    {
        var until = new Option<int?>("--until-hours")
        {
            Description = "How many hours before the appointment choosing ends, 2 to 720; left out: as it is."
        };
        var most = new Option<int?>("--most-per-slot")
        {
            Description =
                "So many visits at most may begin at one time at a site by choice; 0: as many as the plan has room for; left out: as it is."
        };
        return new Command("choosing", "How people choose their times on their own page: show, set, and who waits.")
        {
            Call.Command<ChoosingRules>(
                "show",
                "Shows how people choose their times.",
                "yardline choosing show",
                [],
                (c, r, _, cancel) => c.ChoosingAsync(r, cancel),
                Say),
            Call.Command<ChoosingRules>("set", "Says until when people may choose, and how many may begin at one time.",
                "yardline choosing set --until-hours 48 --most-per-slot 2", [until, most], async (c, r, a, cancel) =>
            {
                if (!(await c.ChoosingAsync(r, cancel)).TryGet(out var rules, out var refused)) return refused;
                return await c.SetChoosingAsync(
                    r,
                    new(
                        a.GetValue(until) ?? rules.UntilHours,
                        a.GetValue(most) is { } number ? number == 0 ? null : number : rules.MostPerSlot),
                    cancel);
            }, Say),
            Call.Command<List<WaitingSeen>>("waiting", "Lists who waits for which time, whoever waits longest first.",
                "yardline choosing waiting", [], (c, r, _, cancel) => c.WaitingAsync(r, cancel), all =>
            {
                if (all.Count == 0) Tables.Say("Nobody waits for another time.");
                else
                    Tables.Show(
                        ["Swap", "Person", "Site", "Has", "Waits for", "Until", "Since"],
                        all.Select(v => new[]
                        {
                            v.Swap,
                            v.Name,
                            v.Site,
                            v.Start is { } has ? At(has) : "no time",
                            At(v.From),
                            At(v.Until),
                            At(v.At)
                        }));
            }),
        };

        static void Say(ChoosingRules rules) =>
            Tables.Say(
                $"People choose until {rules.UntilHours} hours before their appointment, "
                    + $"{(rules.MostPerSlot is { } most
                        ? $"at most {most} for one time at a site"
                        : "as many for one time as the plan has room for")}.");
    }

    private static string At(DateTimeOffset at) => at.OnClock().ToString("ddd d MMM HH:mm", CultureInfo.InvariantCulture);

    private static Command Group()
    {
        var key = new Argument<string>("key") { Description = "Key of the group: short, without '/'." };
        var name = new Option<string>("--name") { Description = "Name that people read." };
        var swaps = new Option<string[]>("--swap")
        {
            Description = "Ids of two or more swaps.",
            AllowMultipleArgumentsPerToken = true
        };
        var atOnce = new Option<int?>("--at-once")
        {
            Description = "So many of them at most have their appointment at once; 1 keeps all apart."
        };
        var oneDay = new Option<bool>("--one-day") { Description = "All that have an appointment have it on one day." };
        return new Command(
            "group", "Swaps that are kept apart, or go together: list them, set one. The plan, and what people may choose, keep to it.")
        {
            Call.Command<List<GroupSeen>>("list", "Lists groups.", "yardline group list", [], (c, r, _, cancel) => c.GroupsAsync(r, cancel),
                all =>
            {
                if (all.Count == 0) Tables.Say("There is no group.");
                else
                    Tables.Show(
                        ["Key", "Name", "At once", "One day", "People"],
                        all.Select(g => new[]
                        {
                            g.Key,
                            g.Name,
                            g.AtOnce is { } most ? $"{most}" : "any",
                            g.OneDay ? "yes" : "",
                            string.Join(", ", g.Names)
                        }));
            }),
            SetVerb.Create("Makes or changes a group.",
                "yardline group set pay-office --name 'Pay office' --swap autumn-0003 autumn-0007 --at-once 1",
                [key, name, swaps, atOnce, oneDay],
                (w, a) => w.Groups.FirstOrDefault(x => string.Equals(x.Key, a.GetValue(key), StringComparison.OrdinalIgnoreCase)),
                (c, r, a, was, cancel) => c.PutGroupAsync(
                    r,
                    was?.Key ?? a.GetValue(key)!,
                    new(
                        a.Must(name, was?.Name), SetVerb.IsGiven(a, swaps) || was is null ? a.Must(swaps, null) : was.Swaps,
                        a.Or(atOnce, was?.AtOnce), SetVerb.IsGiven(a, oneDay) ? a.GetValue(oneDay) : was?.OneDay ?? false),
                    cancel),
                typeof(GroupWanted),
                g => Tables.Say(
                    $"{g.Name}: {string.Join(", ", g.Names)}"
                        + $"{(g.AtOnce is { } most ? most == 1 ? "; kept apart" : $"; at most {most} at once" : "")}"
                        + $"{(g.OneDay ? "; all on one day" : "")}. What is promised against it stays until the next plan: 'yardline "
                                + $"plan make'.")),
            DropVerb.Create(
                "group", "groups", w => w.Groups.Select(g => g.Key), "Takes a group out; its swaps go as they will.", "pay-office"),
        };
    }
}
