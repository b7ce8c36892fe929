using System.Text.Json;

namespace YardRelay.Hand.Service;

/// <summary>What a hand keeps on its computer: who it is, and which folder it works with. Readable by its owner only.</summary>
internal sealed record HandState(string Service, string Hand, string Token, string Tag, string Root)
{
    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web) { WriteIndented = true };

    private static string FileIn(string folder) => Path.Combine(folder, "hand.json");

    public static HandState? Read(string folder) =>
        File.Exists(FileIn(folder)) ? JsonSerializer.Deserialize<HandState>(File.ReadAllText(FileIn(folder)), Json) : null;

    public void Write(string folder)
    {
        Directory.CreateDirectory(folder);
        var aside = FileIn(folder) + ".new";
        using (var file = new FileStream(aside, new FileStreamOptions
        {
            Mode = FileMode.Create,
            Access = FileAccess.Write,
            UnixCreateMode = UnixFileMode.UserRead | UnixFileMode.UserWrite
        }))
            JsonSerializer.Serialize(file, this, Json);
        File.Move(aside, FileIn(folder), overwrite: true);
    }
}
