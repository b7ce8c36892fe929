using System.CommandLine;
using YardRelay.Core;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <summary><c>yardline plan export</c>, <c>subscribe</c> and what belongs to it: what is published, in open formats.</summary>
internal static class PlanOutVerbs
{
    public static IEnumerable<Command> Create()
    {
        var file = new Argument<string>("file") { Description = "Where it is written; its ending says the form: .ics, .csv or .xlsx." };
        var site = new Option<string?>("--site") { Description = "Only of this site." };
        var technician = new Option<string?>("--technician") { Description = "Only of this technician." };
        yield return Call.Command<string>("export", "Writes what is published as iCalendar, CSV or XLSX.",
            "yardline plan export noor.ics --technician noor", [file, site, technician], async (c, r, a, cancel) =>
        {
            var path = a.GetValue(file)!;
            var got = await c.ExportPlanAsync(
                r, Path.GetExtension(path).TrimStart('.').ToLowerInvariant(), a.GetValue(site), a.GetValue(technician), cancel);
            return got.IsOk ? await Written.ToAsync(path, got.Value, cancel) : Result<string>.Failed(got.Problems);
        }, path => Tables.Say($"Written to {path}."));
        yield return Call.Command(
            "subscribe",
            "Gives an address that a calendar program can subscribe to. Who has it can read these appointments.",
            "yardline plan subscribe --technician noor",
            [site, technician],
            (c, r, a, cancel) => c.MakeFeedAsync(r, new(a.GetValue(site), a.GetValue(technician)), cancel),
            f => Tables.Say($"{f.Address}\nWithdraw it with 'yardline plan unsubscribe {f.Id}'."));
        yield return Call.Command(
            "subscriptions",
            "Addresses that calendar programs read at: a coordinator sees all, others their own.",
            "yardline plan subscriptions",
            [],
            (c, r, _, cancel) => c.FeedsAsync(r, cancel),
            all => Tables.Show(
                ["Id", "Of", "Made by", "Made", "Last read"],
                all.Select(f => new[]
                {
                    f.Id,
                    $"{f.Technician ?? "everybody"}{(f.Site is null ? "" : $" at {f.Site}")}",
                    f.MadeBy,
                    $"{f.MadeAt.OnClock():d MMM HH:mm}",
                    f.ReadAt is { } at ? $"{at.OnClock():d MMM HH:mm}" : "never"
                })));
        var feed = new Argument<string>("id") { Description = "As 'subscriptions' shows it." };
        yield return Call.Command(
            "unsubscribe",
            "Withdraws such an address: whoever reads at it finds nothing from then on.",
            "yardline plan unsubscribe 3f2a90c1d4e5",
            [feed],
            (c, r, a, cancel) => c.EndFeedAsync(r, a.GetValue(feed)!, cancel),
            _ => Tables.Say("Withdrawn."));
    }
}

/// <summary>A file written aside and then renamed: whole under its name, or not at all.</summary>
internal static class Written
{
    public static async Task<Result<string>> ToAsync(string path, byte[] content, CancellationToken cancel)
    {
        try
        {
            await File.WriteAllBytesAsync(path + ".new", content, cancel);
            File.Move(path + ".new", path, overwrite: true);
            return path;
        }
        catch (Exception broke) when (broke is IOException or UnauthorizedAccessException)
        {
            return new FileWriteProblem(path, broke.Message);
        }
    }
}
