CREATE TABLE `pressed` (
	`press` char(36) NOT NULL,
	`at` datetime(3) NOT NULL,
	`answer` json,
	CONSTRAINT `pressed_press` PRIMARY KEY(`press`)
);
--> statement-breakpoint
CREATE INDEX `pressed_at` ON `pressed` (`at`);