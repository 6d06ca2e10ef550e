import express from 'express';
import { BookingService } from '@/booking/booking-service';
import { Berth } from '@/domain';

export function create(service: BookingService) {
  const app = express();
  app.post('/bookings', async (req, res) => {
    await service.book({ berth: new Berth(Number(req.body.berth), 3), vessel: req.body.vessel, nights: Number(req.body.nights) });
    res.send('booked');
  });
  return app;
}
