using Quayside.Booking;
using Quayside.Main;

var builder = WebApplication.CreateBuilder(args);
builder.Services.AddControllers();
builder.Services.AddSingleton(_ => new BookingService(Registry.Bookings()));
var app = builder.Build();
app.MapControllers();
app.Run();
