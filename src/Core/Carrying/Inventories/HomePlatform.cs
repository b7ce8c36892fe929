namespace YardRelay.Core.Carrying.Inventories;

/// <summary>Whose customs a home follows. Told from the home itself: a disk may hang on another kind of computer.</summary>
public enum HomePlatform
{
    /// <summary>Linux and its relatives: XDG user directories, dot folders.</summary>
    Linux,

    /// <summary>Windows: known folders, <c>AppData</c>.</summary>
    Windows,

    /// <summary>macOS: <c>Library</c> and a fixed layout.</summary>
    Mac,
}
