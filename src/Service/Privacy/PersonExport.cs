using System.IO.Compression;
using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Nodes;
using Microsoft.EntityFrameworkCore;
using YardRelay.Records;

namespace YardRelay.Service.Privacy;

/// <summary>
/// All that is kept about a person, as a ZIP: <c>person.json</c>, and the photos beside it. The form stands in docs/formats.md.
/// </summary>
internal static class PersonExport
{
    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web)
    {
        WriteIndented = true,
        Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping
    };

    public static async Task<byte[]> WriteAsync(YardDb db, PersonRecords records, DateTimeOffset now, CancellationToken cancel)
    {
        using var file = new MemoryStream();
        using (var zip = new ZipArchive(file, ZipArchiveMode.Create, leaveOpen: true))
        {
            await using (var entry = await zip.CreateEntry("person.json").OpenAsync(cancel))
                await JsonSerializer.SerializeAsync(entry, await DocumentAsync(db, records, now, cancel), Json, cancel);
            var ids = records.Ids;
            // One photo at a time in memory.
            foreach (var sha256 in await db.Photos.AsNoTracking()
                .Where(p => ids.Contains(p.Swap))
                .Select(p => p.Sha256).Distinct()
                .ToListAsync(cancel))
            {
                var photo = await db.Photos.AsNoTracking().FirstAsync(p => p.Sha256 == sha256 && ids.Contains(p.Swap), cancel);
                await using var entry = await zip.CreateEntry(PhotoName(photo.Sha256, photo.Kind), CompressionLevel.NoCompression)
                    .OpenAsync(cancel);
                await entry.WriteAsync(photo.Content, cancel);
            }
        }
        return file.ToArray();
    }

    private static string PhotoName(string sha256, string kind) => $"photos/{sha256}.{kind.Split('/')[^1]}";

    private static async Task<JsonObject> DocumentAsync(YardDb db, PersonRecords records, DateTimeOffset now, CancellationToken cancel)
    {
        var swaps = new JsonArray();
        foreach (var swap in records.Swaps) swaps.Add(await SwapAsync(db, swap, cancel));
        var p = records.Person;
        return new()
        {
            ["format"] = "yard-relay-person/1",
            ["made"] = Of(now),
            ["refresh"] = records.Refresh.Name,
            ["person"] = Of(new { p.Key, p.Name, p.Mail, p.Department, p.Role, p.Language, p.MailOff, p.ErasedAt }),
            ["accounts"] = Of((await db.Accounts.AsNoTracking().Where(a => a.Person == p.Key).ToListAsync(cancel))
                .Where(a => a.Refreshes.Contains(p.Refresh))
                .Select(a => new { a.Name, a.Shown, a.Role })),
            ["swaps"] = swaps,
        };
    }

    private static async Task<JsonObject> SwapAsync(YardDb db, SwapRow s, CancellationToken cancel)
    {
        var cargo = await db.Cargo.AsNoTracking().FirstOrDefaultAsync(c => c.Swap == s.Id, cancel);
        return new()
        {
            ["id"] = s.Id,
            ["kind"] = Of(s.Kind.ToString()),
            ["place"] = Of(new { s.Site, s.Room, s.Wave }),
            ["computers"] = Of(new { s.OldTag, s.OldModel, s.OldPlatform, s.NewTag, s.NewModel, s.NewPlatform, s.Accounts }),
            ["appointment"] = Of(new
            {
                s.Start,
                s.End,
                s.Technician,
                s.ChosenAt,
                s.Missed,
                s.Free,
                s.Preferred,
                s.CalledOffAt,
                s.CalledOffBecause
            }),
            ["stations"] = Of(new
            {
                s.ToldAt,
                s.SurveyedAt,
                s.BookedAt,
                s.StagedAt,
                s.SwappedAt,
                s.RestoredAt,
                s.AcceptedAt,
                s.HandedInAt
            }),
            ["parcel"] = Of(new { s.Depot, s.Parcel, s.Trips, s.TripAt, s.VerifiedAt, s.CopiedAt, s.RestoreAt, s.PurgedAt }),
            ["inventory"] = Parsed(cargo?.Inventory),
            ["newComputer"] = Parsed(cargo?.NewComputer),
            ["carryList"] = Parsed(cargo?.CarryList),
            ["landing"] = Parsed(cargo?.Landing),
            ["folders"] = Of(await db.Folders.AsNoTracking().Where(f => f.Swap == s.Id).OrderBy(f => f.Folder).ToListAsync(cancel)),
            ["snags"] = Of(await db.Snags.AsNoTracking()
                .Where(n => n.Swap == s.Id)
                .OrderBy(n => n.At)
                .Select(n => new { n.Path, n.Side, n.Bytes, n.Reason, n.End, n.EndedBy, n.EndReason, n.At, n.EndedAt })
                .ToListAsync(cancel)),
            ["steps"] = Of(await db.Steps.AsNoTracking()
                .Where(x => x.Swap == s.Id)
                .OrderBy(x => x.At)
                .Select(x => new { x.Key, x.State, x.By, x.At, x.Reason, x.Value, x.StartedAt })
                .ToListAsync(cancel)),
            ["photos"] = Of((await db.Photos.AsNoTracking()
                .Where(x => x.Swap == s.Id)
                .Select(x => new { x.Sha256, x.Kind, x.Step, x.By, x.At })
                .ToListAsync(cancel))
                .ConvertAll(x => new { File = PhotoName(x.Sha256, x.Kind), x.Step, x.By, x.At })),
            ["signOffs"] = new JsonArray([.. (await db.SignOffs.AsNoTracking()
                .Where(x => x.Swap == s.Id)
                .OrderBy(x => x.At)
                .ToListAsync(cancel))
                .Select(x => (JsonNode)new JsonObject
                {
                    ["part"] = x.Part.ToString(),
                    ["by"] = x.By,
                    ["at"] = Of(x.At),
                    ["saw"] = Parsed(x.Saw),
                    ["witness"] = x.Witness,
                    ["drawn"] = x.Drawn
                })]),
            ["followUps"] = Of(await db.FollowUps.AsNoTracking()
                .Where(x => x.Swap == s.Id)
                .OrderBy(x => x.MadeAt)
                .Select(x => new { x.Words, x.Cause, x.MadeBy, x.MadeAt, x.DoneBy, x.DoneAt, x.Outcome })
                .ToListAsync(cancel)),
            ["notes"] = Of(await db.Handovers.AsNoTracking()
                .Where(x => x.Swap == s.Id)
                .OrderBy(x => x.At)
                .Select(x => new { x.Note, x.By, x.At })
                .ToListAsync(cancel)),
            ["detours"] = Of((await db.Detours.AsNoTracking().Where(x => x.Swap == s.Id).OrderBy(x => x.At).ToListAsync(cancel))
                .ConvertAll(x => new { Kind = x.Kind.ToString(), x.Words, x.By, x.At })),
            ["notices"] = Of(await db.Notices.AsNoTracking()
                .Where(x => x.Swap == s.Id)
                .OrderBy(x => x.MadeAt)
                .Select(x => new { x.Moment, x.Language, x.To, x.Subject, x.MadeAt, x.SentAt, x.BouncedAt })
                .ToListAsync(cancel)),
            ["links"] = Of(await db.Links.AsNoTracking()
                .Where(x => x.Swap == s.Id)
                .OrderBy(x => x.MadeAt)
                .Select(x => new { x.MadeBy, x.MadeAt, x.Expires, x.OpenedAt, x.SeenAt, x.WithdrawnAt })
                .ToListAsync(cancel)),
            ["history"] = Of(await db.Ledger.AsNoTracking()
                .Where(x => x.Refresh == s.Refresh && x.Swap == s.Id)
                .OrderBy(x => x.Number)
                .Select(x => new { x.Number, x.At, x.By, x.Kind, x.Words, x.Sha256 })
                .ToListAsync(cancel)),
        };
    }

    private static JsonNode? Of<T>(T value) => JsonSerializer.SerializeToNode(value, Json);

    private static JsonNode? Parsed(string? json) => string.IsNullOrEmpty(json) ? null : JsonNode.Parse(json);
}
