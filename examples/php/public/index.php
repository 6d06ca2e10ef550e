<?php

require __DIR__ . '/../vendor/autoload.php';

use Quayside\Booking\BookingService;
use Quayside\Desk\BookingScreen;
use Quayside\Main\Registry;

(new BookingScreen(new BookingService(Registry::bookings())))->handle();
