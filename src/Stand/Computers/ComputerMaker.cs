using System.Security.Cryptography;
using System.Text;

namespace YardRelay.Stand.Computers;

/// <summary>Makes one simulated computer: the folders of a person's home with made-up files, the same for the same name.</summary>
internal static partial class ComputerMaker
{
    private static readonly string[] Topics = ["winter timetable", "crew rota", "quay lighting", "ticket returns", "hull survey", "fuel log", "lost property", "fog plan", "berth list", "safety drill"];
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
        return true;
    }

    private static void MakeNew(string folder, Random random)
    {
        foreach (var name in new[] { "Desktop", "Documents", "Downloads" }) Directory.CreateDirectory(Path.Combine(folder, name));
        Write(Path.Combine(folder, "Desktop", "welcome.txt"), "This computer belongs to Kestrel Bay Ferries.\n", random);
    }

    private static void MakeOld(string folder, Random random, double scale)
    {
        foreach (var (name, files, size) in new[] { ("Desktop", 8, 3_000), ("Documents", 60, 9_000), ("Downloads", 14, 40_000), ("Pictures", 12, 60_000), ("Bookmarks", 1, 900), ("Mail", 3, 90_000), ("Timetables", 20, 2_500) })
        {
            var count = Math.Max(1, (int)(files * scale * (0.5 + random.NextDouble())));
            for (var i = 0; i < count; i++)
            {
                var place = Places[random.Next(Places.Length)];
                var sub = files > 15 && i % 3 == 0 ? place : "";
                var ending = name switch { "Pictures" => ".jpg", "Mail" => ".mbox", "Timetables" => ".tbl", "Bookmarks" => ".html", _ => Endings[random.Next(Endings.Length)] };
                Write(Path.Combine(folder, name, sub, $"{Topics[random.Next(Topics.Length)]} {place} {i:00}{ending}"), null, random, (int)(size * Math.Pow(random.NextDouble() + 0.3, 3)));
            }
        }
        Directory.CreateDirectory(Path.Combine(folder, "Documents", "to sort"));
        Directory.CreateDirectory(Path.Combine(folder, "Music"));
        // One computer in sixteen or so has something that cannot be carried, as in life.
        if (random.Next(16) == 0) MakePipe(Path.Combine(folder, "Timetables", "print queue"));
        File.CreateSymbolicLink(Path.Combine(folder, "Desktop", "timetables"), "../Timetables");
        Write(Path.Combine(folder, "Documents", "Café Möwe – Rechnung.txt"), "Two coffees, one tea.\n", random);
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
        File.SetLastWriteTimeUtc(path, new DateTime(2025, 1, 1, 0, 0, 0, DateTimeKind.Utc).AddMinutes(random.Next(0, 800_000)).AddTicks(random.Next(10_000_000)));
    }
}
