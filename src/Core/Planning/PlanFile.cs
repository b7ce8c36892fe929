using System.Text.Json;
using System.Text.Json.Serialization;

namespace YardRelay.Core.Planning;

/// <summary>Instances and plans as JSON text, in the form of <c>docs/formats.md</c>.</summary>
public static class PlanFile
{
    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web)
    {
        NumberHandling = JsonNumberHandling.Strict,
        RespectNullableAnnotations = true,
        RespectRequiredConstructorParameters = true,
        WriteIndented = true,
        DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull,
        Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };

    private sealed record SiteJson(string Id, int Benches);

    private sealed record TravelJson(string From, string To, int Minutes);

    private sealed record TechnicianJson(string Id, string[] Skills, string[] Sites, int[][] Shifts);

    private sealed record DepotJson(string Id, int? Capacity = null, int? Daily = null);

    private sealed record PublishedJson(int Start, string Technician);

    private sealed record FollowsJson(string Swap, int Gap);

    private sealed record PinJson(int? Start = null, string? Technician = null);

    private sealed record SwapJson(
        string Id, string Site, string[] Skills, int Weight, int Before, int Unattended, int After, int Slack, int[][] Windows, int Release,
        int Target,
        int[][]? Preferred = null, string? Depot = null, int? Size = null, int? Lead = null, int? Hold = null,
        PublishedJson? Published = null, FollowsJson? Follows = null, PinJson? Pinned = null);

    private sealed record GroupJson(string Id, string[] Swaps, int? AtOnce = null, bool OneDay = false);

    private sealed record InstanceJson(
        string Name, int Days, SiteJson[] Sites, TravelJson[] Travel, TechnicianJson[] Technicians, DepotJson[] Depots, SwapJson[] Swaps,
        int Grid = 15, GroupJson[]? Groups = null);

    /// <summary>Reads an instance; every fault is reported, with the path in the JSON where the form itself is wrong.</summary>
    public static Result<AppointmentProblem> ReadInstance(string json)
    {
        InstanceJson? file;
        try
        {
            file = JsonSerializer.Deserialize<InstanceJson>(json, Json);
        }
        catch (JsonException wrong)
        {
            return new InstanceForm(wrong.Path ?? "its start", wrong.LineNumber + 1, wrong.Message);
        }
        if (file is null) return new InstanceNull();

        var faults = new List<Problem>();
        IReadOnlyList<Minutes> Spans(int[][]? spans, string whose)
        {
            foreach (var span in (spans ?? []).Where(s => s is not { Length: 2 }))
                faults.Add(new TimeIsNoPair(whose));
            return [.. (spans ?? []).Where(s => s is { Length: 2 }).Select(s => new Minutes(s[0], s[1]))];
        }

        var technicians = file.Technicians.Select(t =>
            new PlanTechnician(t.Id, t.Skills, t.Sites, Spans(t.Shifts, $"Technician '{t.Id}'"))).ToList();
        var visits = file.Swaps.Select(s =>
        {
            var given = new object?[] { s.Depot, s.Size, s.Lead, s.Hold }.Count(v => v is not null);
            if (given is not (0 or 4))
                faults.Add(new StagingHalfGiven(s.Id));
            return new Visit(
                s.Id, s.Site, s.Skills, s.Weight, s.Before, s.Unattended, s.After, s.Slack,
                Spans(s.Windows, $"Swap '{s.Id}'"), Spans(s.Preferred, $"Swap '{s.Id}'"), s.Release, s.Target,
                given == 4 ? new(s.Depot!, s.Size!.Value, s.Lead!.Value, s.Hold!.Value) : null,
                s.Published is { } told ? new(told.Start, told.Technician) : null,
                s.Follows is { } follows ? new(follows.Swap, follows.Gap) : null,
                s.Pinned is { } pin ? new(pin.Start, pin.Technician) : null);
        }).ToList();
        var made = AppointmentProblem.Create(
            file.Name,
            file.Days,
            file.Grid,
            [.. file.Sites.Select(s => new PlanSite(s.Id, s.Benches))],
            [.. file.Travel.Select(t => (t.From, t.To, t.Minutes))],
            technicians, [.. file.Depots.Select(d => new PlanDepot(d.Id, d.Capacity, d.Daily))], visits,
            [.. (file.Groups ?? []).Select(g => new PlanGroup(g.Id, g.Swaps, g.AtOnce, g.OneDay))]);
        return faults.Count > 0 ? Result<AppointmentProblem>.Failed([.. faults, .. made.Problems]) : made;
    }

    /// <summary>Reads a plan.</summary>
    public static Result<Plan> ReadPlan(string json)
    {
        try
        {
            return JsonSerializer.Deserialize<Plan>(json, Json) is { } plan ? plan : new PlanNull();
        }
        catch (JsonException wrong)
        {
            return new PlanForm(wrong.Path ?? "its start", wrong.Message);
        }
    }

    /// <summary>Writes a plan.</summary>
    public static string Write(Plan plan) => JsonSerializer.Serialize(plan, Json);
}
