using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using YardRelay.Core.Carrying.Inventories;

namespace YardRelay.Stand.Computers;

/// <summary>Makes one simulated computer: the folders of a person's home with made-up files, the same for the same name.</summary>
internal static partial class ComputerMaker
{
    private static readonly string[] Topics = [
        "winter timetable", "crew rota", "quay lighting", "ticket returns", "hull survey", "fuel log", "lost property", "fog plan",
        "berth list", "safety drill"
    ];
    private static readonly string[] Endings = [".txt", ".ods", ".odt", ".pdf", ".csv"];
    private static readonly string[] Places = ["North Quay", "Lantern Point", "Gull Rock", "Heron Slip", "Workshop"];

    /// <summary>Makes the computer, unless it stands already.</summary>
    public static bool Make(string folder, string person, double scale, bool isNew)
    {
        if (Directory.Exists(folder)) return false;
        var aside = folder + ".making";
        if (Directory.Exists(aside)) Directory.Delete(aside, recursive: true);
        var random = new Random(BitConverter.ToInt32(SHA256.HashData(Encoding.UTF8.GetBytes(person + Path.GetFileName(folder)))));
        if (isNew) MakeNew(aside, random);
        else MakeOld(aside, random, scale);
        Directory.Move(aside, folder);
        if (!isNew) Describe(folder, random);
        return true;
    }

    private static void MakeNew(string folder, Random random)
    {
        foreach (var name in new[] { "Desktop", "Documents", "Downloads" }) Directory.CreateDirectory(Path.Combine(folder, name));
        Write(Path.Combine(folder, "Desktop", "welcome.txt"), "This computer belongs to Kestrel Bay Ferries.\n", random);
    }

    private static void MakeOld(string folder, Random random, double scale)
    {
        foreach (var (name, files, size) in new[]
        {
            ("Desktop", 8, 3_000),
            ("Documents", 60, 9_000),
            ("Downloads", 14, 40_000),
            ("Pictures", 12, 60_000),
            ("Bookmarks", 1, 900),
            ("Mail", 3, 90_000),
            ("Timetables", 20, 2_500)
        })
        {
            var count = Math.Max(1, (int)(files * scale * (0.5 + random.NextDouble())));
            for (var i = 0; i < count; i++)
            {
                var place = Places[random.Next(Places.Length)];
                var sub = files > 15 && i % 3 == 0 ? place : "";
                var ending = name switch
                {
                    "Pictures" => ".jpg",
                    "Mail" => ".mbox",
                    "Timetables" => ".tbl",
                    "Bookmarks" => ".html",
                    _ => Endings[random.Next(Endings.Length)]
                };
                Write(
                    Path.Combine(folder, name, sub, $"{Topics[random.Next(Topics.Length)]} {place} {i:00}{ending}"),
                    null,
                    random,
                    (int)(size * Math.Pow(random.NextDouble() + 0.3, 3)));
            }
        }
        Directory.CreateDirectory(Path.Combine(folder, "Documents", "to sort"));
        Directory.CreateDirectory(Path.Combine(folder, "Music"));
        // One computer in sixteen or so has something that cannot be carried, as in life.
        if (random.Next(16) == 0) MakePipe(Path.Combine(folder, "Timetables", "print queue"));
        File.CreateSymbolicLink(Path.Combine(folder, "Desktop", "timetables"), "../Timetables");
        MakePlaces(folder, random);
        Write(Path.Combine(folder, "Documents", "Café Möwe – Rechnung.txt"), "Two coffees, one tea.\n", random);
    }

    /// <summary>What lies in homes beside the folders that everybody thinks of.</summary>
    private static void MakePlaces(string folder, Random random)
    {
        void Some(string path, int files, int bytes)
        {
            for (var i = 0; i < files; i++) Write(Path.Combine(folder, path, $"{i:000}"), null, random, 1 + random.Next(bytes));
        }

        Write(Path.Combine(folder, ".mozilla/firefox/kestrel.default/places.sqlite"), null, random, 40_000);
        Some(".mozilla/firefox/kestrel.default/cache2/entries", 12, 20_000);
        Write(Path.Combine(folder, ".config/libreoffice/4/user/wordbook/standard.dic"), "Möwe\nLantern Point\n", random);
        Some(".config/libreoffice/4/user/config", 3, 4_000);
        Some(".cache/thumbnails", 10, 9_000);
        Write(Path.Combine(folder, ".local/share/backgrounds/quay.jpg"), null, random, 30_000);
        if (random.Next(3) == 0)
        {
            Write(Path.Combine(folder, "Kestrel Cloud/.sync_8f31.db"), null, random, 4_000);
            Some("Kestrel Cloud/Shared timetables", 9, 12_000);
            ByNameOnly(Path.Combine(folder, "Kestrel Cloud/Shared timetables/archive 2019.zip"), 48_000_000);
        }
        if (random.Next(4) == 0)
        {
            Some("Pictures/Ships.photoslibrary/originals", 14, 50_000);
            if (random.Next(2) == 0) Some("Pictures/old/Ships 2019.photoslibrary/originals", 8, 50_000);
        }
        if (random.Next(5) == 0) Some("Scans to file", 6, 60_000);
    }

    // A file whose content is elsewhere: a length, and nothing on the disk.
    private static void ByNameOnly(string path, long bytes)
    {
        using var file = File.Create(path);
        file.SetLength(bytes);
    }

    private static readonly (string Name, string Version)[] Shop = [
        ("Berth Planner", "6.2"), ("Chromium", "142.0"), ("Firefox", "145.0"), ("LibreOffice", "25.8"), ("Quay Charts", "3.11"),
        ("Rota Desk", "2.4.1"), ("Thunderbird", "140.5"), ("Ticket Till", "9.0"), ("Timetable Writer", "1.8")
    ];

    private static void Describe(string folder, Random random)
    {
        var programs = Shop.Where(_ => random.Next(3) > 0).Select(p => new ProgramFound(p.Name, p.Version, "shipped list")).ToList();
        var running = random.Next(3) == 0 && programs.Count > 0
            ? [new RunningFound(programs[random.Next(programs.Count)].Name, 1 + random.Next(4))]
            : new List<RunningFound>();
        // A computer that is not running here tells of its programs in a file beside it.
        File.WriteAllText(folder + ".computer.json", JsonSerializer.Serialize(new { programs, running }, JsonSerializerOptions.Web));
    }

    private static void MakePipe(string path)
    {
        if (mkfifo(path, 0x1A4) != 0) throw new IOException($"A pipe could not be made at {path}.");
    }

    [System.Runtime.InteropServices.LibraryImport("libc", StringMarshalling = System.Runtime.InteropServices.StringMarshalling.Utf8)]
    private static partial int mkfifo(string path, uint mode);

    private static void Write(string path, string? text, Random random, int bytes = 0)
    {
        Directory.CreateDirectory(Path.GetDirectoryName(path)!);
        if (text is not null) File.WriteAllText(path, text);
        else
        {
            var content = new byte[bytes];
            random.NextBytes(content);
            File.WriteAllBytes(path, content);
        }
        File.SetLastWriteTimeUtc(
            path,
            new DateTime(2025, 1, 1, 0, 0, 0, DateTimeKind.Utc).AddMinutes(random.Next(0, 800_000)).AddTicks(random.Next(10_000_000)));
    }
}
