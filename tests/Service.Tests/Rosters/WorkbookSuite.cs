using System.IO.Compression;
using System.Net;
using System.Net.Http.Json;
using System.Text;
using Microsoft.EntityFrameworkCore;
using MiniExcelLibs;
using YardRelay.Contracts;
using YardRelay.Peers;

namespace YardRelay.Service.Tests;

public sealed class SqliteWorkbookTests(OnSqlite service) : WorkbookSuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresWorkbookTests(OnPostgres service) : WorkbookSuite(service), IClassFixture<OnPostgres>;

/// <summary>Rosters from spreadsheets: their columns, what is taken without the bad rows, and taken back; on every database.</summary>
public abstract class WorkbookSuite(RunningService service) : Planned(service)
{
    private static byte[] Workbook(params object?[][] rows)
    {
        using var stream = new MemoryStream();
        stream.SaveAs(rows.Skip(1).Select(r => rows[0].Select((h, i) => (h, v: r[i])).ToDictionary(p => (string)p.h!, p => p.v)));
        return stream.ToArray();
    }

    private async Task<RosterTaken> TakeAsync(string refresh, byte[] file, string options = "") =>
        await ReadAsync<RosterTaken>(await Kit.PostAsync($"api/refreshes/{refresh}/roster?x=1{options}", new ByteArrayContent(file)));

    /// <summary>A workbook made by hand, with these rows in its sheet.</summary>
    private static byte[] Book(string rows, string? extra = null, long extraBytes = 0)
    {
        const string Ooxml = "http://schemas.openxmlformats.org";
        const string Relations = $"{Ooxml}/package/2006/relationships";
        const string Office = $"{Ooxml}/officeDocument/2006/relationships";
        const string Sheet = $"{Ooxml}/spreadsheetml/2006/main";
        static string Relation(string type, string target) =>
            $"""<Relationships xmlns="{Relations}"><Relationship Id="r1" Type="{Office}/{type}" Target="{target}"/></Relationships>""";
        using var file = new MemoryStream();
        using (var book = new ZipArchive(file, ZipArchiveMode.Create, leaveOpen: true))
        {
            Write(
                "[Content_Types].xml",
                $"""<Types xmlns="{Ooxml}/package/2006/content-types"><Default Extension="xml" ContentType="application/xml"/></Types>""");
            Write("_rels/.rels", Relation("officeDocument", "xl/workbook.xml"));
            Write("xl/_rels/workbook.xml.rels", Relation("worksheet", "worksheets/sheet1.xml"));
            Write(
                "xl/workbook.xml",
                $"""<workbook xmlns="{Sheet}" xmlns:r="{Office}"><sheets><sheet name="A" sheetId="1" r:id="r1"/></sheets></workbook>""");
            Write("xl/worksheets/sheet1.xml", $"""<worksheet xmlns="{Sheet}"><sheetData>{rows}</sheetData></worksheet>""");
            if (extra is not null)
            {
                using var part = book.CreateEntry(extra).Open();
                for (var (left, zeros) = (extraBytes, new byte[1 << 20]); left > 0; left -= zeros.Length) part.Write(zeros);
            }

            void Write(string name, string text)
            {
                using var writer = new StreamWriter(book.CreateEntry(name).Open());
                writer.Write(text);
            }
        }
        return file.ToArray();
    }

    private static string Row(int number, string cell) =>
        $"""<row r="{number}"><c r="{cell}{number}" t="inlineStr"><is><t>person</t></is></c></row>""";

    [Fact]
    public async Task A_workbook_that_unpacks_without_end_or_has_rows_and_columns_without_end_is_refused_with_the_reason()
    {
        var refresh = await Service.RefreshAsync(withRoster: false);
        foreach (var (file, why) in new[]
        {
            (Book("", "xl/media/zeros.bin", 300L << 20), "256 MB"),
            (Book(Row(1, "XFD")), "200 columns"),
            (Book(Row(1, "A") + Row(1_048_576, "A")), "200,000 lines"),
        })
        {
            file.Length.ShouldBeLessThan(1 << 20, why);
            (await RunningService.ProblemAsync(
                await Kit.PostAsync($"api/refreshes/{refresh}/roster", new ByteArrayContent(file)), 422)).ToJsonString().ShouldContain(why);
        }
    }

    [Fact]
    public async Task A_workbook_is_taken_its_columns_matched_by_guess_and_by_hand_and_the_match_is_kept()
    {
        var refresh = await Service.RefreshAsync(withRoster: false);
        var book = Workbook(
            ["Staff no", "Full name", "Location", "Kind", "Asset tag", "Replacement", "Shelf", "Last day", "Data to", "Shoe size"],
            [4711, "Ida Moreau", "North", "renew", "KB-1", "KB-2", "", null, null, 38],
            [4712, "Sol Okafor", "South", "leave", "KB-3", null, "B", new DateTime(2026, 12, 31), 4711, 44]);
        var preview = await TakeAsync(refresh, book, "&dryRun=true");
        preview.Columns.Select(c => (c.Head, c.Column, c.By)).ShouldBe([
            ("Staff no", "person", "guess"), ("Full name", "name", "guess"), ("Location", "site", "guess"), ("Kind", "kind", "name"),
            ("Asset tag", "old_tag", "guess"), ("Replacement", "new_tag", "guess"), ("Shelf", "", "none"), ("Last day", "closes", "guess"),
            ("Data to", "receiver", "guess"), ("Shoe size", "", "none")
        ]);
        (preview.Added, preview.Rejected.Count).ShouldBe((2, 0));
        await PutAsync<Dictionary<string, string>>(
            $"api/refreshes/{refresh}/roster/columns", new Dictionary<string, string> { ["Shelf"] = "room" });
        (await TakeAsync(refresh, book)).Columns
            .Where(c => c.Head == "Shelf")
            .Select(c => (c.Column, c.By, c.Samples.Single()))
            .ShouldBe([("room", "hand", "B")]);
        var leaver = await Service.WithRecordsAsync(db => db.Swaps.SingleAsync(s => s.Refresh == refresh && s.Person == "4712"));
        (leaver.Room, leaver.Receiver, leaver.Closes).ShouldBe(("B", "4711", new DateOnly(2026, 12, 31)));
        await RefusedAsync(
            await Kit.PutAsJsonAsync($"api/refreshes/{refresh}/roster/columns", new Dictionary<string, string> { ["Shelf"] = "shoes" }),
            422,
            "roster.columns");
        await RefusedAsync(
            await Kit.PostAsync($"api/refreshes/{refresh}/roster", new ByteArrayContent([(byte)'P', (byte)'K', 3, 4, 5])),
            422,
            "roster.workbook");
        // The sample that can be downloaded is a roster, in both forms.
        foreach (var form in new[] { "csv", "xlsx" })
            (await TakeAsync(
                await Service.RefreshAsync(withRoster: false) is var other && await OpenAsync(other) ? other : "",
                await Kit.GetByteArrayAsync($"api/roster-template?form={form}&sample=true"))).Added
                .ShouldBe(3);

        async Task<bool> OpenAsync(string of)
        {
            foreach (var site in new[] { "North Quay", "Lantern Point", "Workshop" })
                await PutAsync<SiteSeen>($"api/refreshes/{of}/sites/{site}", new SiteWanted(site, 1));
            return true;
        }
    }

    [Fact]
    public async Task A_taking_is_undone_to_the_letter_while_nothing_was_built_on_it_and_who_is_gone_stays_when_under_way()
    {
        var refresh = await Service.RefreshAsync();
        var sent = RunningService.Roster;
        async Task<string> StateAsync() =>
            string.Join(
                '\n',
                await Service.WithRecordsAsync(async db => (await db.Swaps.Where(s => s.Refresh == refresh)
                    .OrderBy(s => s.Id)
                    .Select(s => $"{s.Id} {s.Name} {s.Site} {s.Room} {s.OldTag} {s.NewTag}").ToListAsync())
                    .Concat(await db.People.Where(p => p.Refresh == refresh)
                        .OrderBy(p => p.Key)
                        .Select(p => $"{p.Key} {p.Name} {p.Mail}").ToListAsync())));
        var before = await StateAsync();
        var newer = Encoding.UTF8.GetBytes(sent.Replace("k1,Ida Moreau,North", "k1,Ida Moreau-Lund,South", StringComparison.Ordinal)
            .Replace("k3,Per Lunde,North,issue,,KB-6\n", "k9,Mae Quist,North,issue,,KB-9\n", StringComparison.Ordinal));
        var preview = await TakeAsync(refresh, newer, "&dryRun=true");
        (preview.Added, preview.Changed, preview.Same, preview.Gone).ShouldBe((1, 1, 1, 1));
        preview.Changes.Single(c => c.Change == "gone").What.ShouldContain("left alone");
        var taken = await TakeAsync(refresh, newer, "&dropGone=true");
        (await StateAsync()).ShouldNotContain("KB-6");
        (await ReadAsync<TakingSeen>(await Kit.PostAsync($"api/refreshes/{refresh}/roster/takings/{taken.Number}/undo", null))).Number
            .ShouldBe(2);
        (await StateAsync()).ShouldBe(before);
        // Undone twice is undone once.
        (await Kit.PostAsync($"api/refreshes/{refresh}/roster/takings/{taken.Number}/undo", null)).StatusCode.ShouldBe(HttpStatusCode.OK);
        await Service.PublishAsync(refresh, new(100));
        (await RefusedAsync(await Kit.PostAsync($"api/refreshes/{refresh}/roster/takings/1/undo", null), 409, "roster.built-on"))
            .ShouldContain("has an appointment");
        var kept = await TakeAsync(
            refresh,
            Encoding.UTF8.GetBytes("person,name,site,kind,old_tag,new_tag\nk2,Sol Okafor,South,renew,KB-3,KB-4\n"),
            "&dropGone=true");
        kept.Changes.Where(c => c.Change == "gone").ShouldAllBe(c => c.What.Contains("has an appointment and is kept"));
        (await StateAsync()).ShouldBe(before);
    }

    [Fact]
    public async Task Good_rows_are_taken_without_the_bad_ones_only_when_asked()
    {
        var refresh = await Service.RefreshAsync(withRoster: false);
        var mixed = Encoding.UTF8.GetBytes(
            "person,name,site,kind,old_tag,new_tag\nk1,Ida,North,renew,KB-1,KB-2\nk2,,North,renew,KB-3,KB-4\n"
                + "k3,Ann,Nort,renew,KB-5,KB-6\n");
        (await Kit.PostAsync($"api/refreshes/{refresh}/roster", new ByteArrayContent(mixed))).StatusCode
            .ShouldBe(HttpStatusCode.UnprocessableEntity);
        var taken = await TakeAsync(refresh, mixed, "&skipFaulty=true");
        (taken.Rows, taken.Added).ShouldBe((3, 1));
        taken.Rejected.Select(r => (r.Line, r.Column)).ShouldBe([(3, "name"), (4, "site")]);
    }

    [Fact]
    public async Task A_roster_of_thousands_is_taken_at_once_says_how_far_it_is_and_changes_nothing_the_second_time()
    {
        var refresh = await Service.RefreshAsync(withRoster: false);
        var rows = Seeds.Large(2_500, whole: 20_000);
        var many = Encoding.UTF8.GetBytes("person,name,site,kind,old_tag,new_tag\n"
            + string.Concat(Enumerable.Range(0, rows).Select(i => $"m{i},Person {i},South,renew,O-{i},N-{i}\n")));
        var taking = TakeAsync(refresh, many, "&name=many");
        var seen = new List<RosterProgress>();
        while (!taking.IsCompleted)
        {
            seen.Add((await Kit.GetFromJsonAsync<RosterProgress>($"api/refreshes/{refresh}/roster/progress/many"))!);
            await Task.Delay(20);
        }
        (await taking).Added.ShouldBe(rows);
        var stages = seen.Where(s => s.Stage != "waiting").ToList();
        stages.Select(s => s.Stage).Distinct().Last().ShouldBe("saving", "whoever asks often sees it come to its end");
        foreach (var stage in stages.GroupBy(s => s.Stage))
            stage.Select(s => s.Rows).ShouldBe(stage.Select(s => s.Rows).Order(), "it never goes back");
        stages.ShouldAllBe(s => s.Of == rows);
        (await Kit.GetFromJsonAsync<RosterProgress>($"api/refreshes/{refresh}/roster/progress/many"))!.Stage.ShouldBe("waiting");
        (await TakeAsync(refresh, many)).Same.ShouldBe(rows);
    }
}
