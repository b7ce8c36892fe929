using System.CommandLine;
using YardRelay.Core;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <summary><c>yardline plan export</c> and <c>subscribe</c>: what is published, in open formats.</summary>
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
            f => Tables.Say(f.Address));
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
