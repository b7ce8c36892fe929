namespace YardRelay.Core.Orders;

/// <summary>The names of orders in requests and records.</summary>
public static class OrderNames
{
#pragma warning disable CS1591 // Each is what it says; Order has the rest.
    public const string Survey = "survey";
    public const string SurveyNew = "survey-new";
    public const string Folders = "folders";
    public const string FirstTrip = "first-trip";
    public const string TopUpTrip = "top-up-trip";
    public const string ClosingTrip = "closing-trip";
    public const string Verify = "verify";
    public const string SecondCopy = "second-copy";
    public const string LastLook = "last-look";
    public const string Look = "look";
    public const string Restore = "restore";
    public const string PartRestore = "part-restore";
    public const string Adopt = "adopt";
    public const string Purge = "purge";
#pragma warning restore CS1591
}
