/*M!999999\- enable the sandbox mode */ 
-- MariaDB dump 10.19  Distrib 10.11.19-MariaDB, for debian-linux-gnu (x86_64)
--
-- Host: localhost    Database: perch
-- ------------------------------------------------------
-- Server version	10.11.19-MariaDB-0+deb12u1

/*!40101 SET @OLD_CHARACTER_SET_CLIENT=@@CHARACTER_SET_CLIENT */;
/*!40101 SET @OLD_CHARACTER_SET_RESULTS=@@CHARACTER_SET_RESULTS */;
/*!40101 SET @OLD_COLLATION_CONNECTION=@@COLLATION_CONNECTION */;
/*!40101 SET NAMES utf8mb4 */;
/*!40103 SET @OLD_TIME_ZONE=@@TIME_ZONE */;
/*!40103 SET TIME_ZONE='+00:00' */;
/*!40014 SET @OLD_UNIQUE_CHECKS=@@UNIQUE_CHECKS, UNIQUE_CHECKS=0 */;
/*!40014 SET @OLD_FOREIGN_KEY_CHECKS=@@FOREIGN_KEY_CHECKS, FOREIGN_KEY_CHECKS=0 */;
/*!40101 SET @OLD_SQL_MODE=@@SQL_MODE, SQL_MODE='NO_AUTO_VALUE_ON_ZERO' */;
/*!40111 SET @OLD_SQL_NOTES=@@SQL_NOTES, SQL_NOTES=0 */;

--
-- Table structure for table `entry`
--

DROP TABLE IF EXISTS `entry`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `entry` (
  `id` bigint(20) NOT NULL AUTO_INCREMENT,
  `pilot_id` bigint(20) NOT NULL,
  `quad_id` bigint(20) NOT NULL,
  `kind` varchar(20) NOT NULL,
  `name` varchar(190) NOT NULL,
  `body` longtext NOT NULL,
  `at` datetime(3) NOT NULL,
  PRIMARY KEY (`id`),
  KEY `entry_newest` (`quad_id`,`kind`,`name`,`id`),
  KEY `entry_pilot` (`pilot_id`),
  CONSTRAINT `entry_pilot` FOREIGN KEY (`pilot_id`) REFERENCES `pilot` (`id`),
  CONSTRAINT `entry_quad` FOREIGN KEY (`quad_id`) REFERENCES `quad` (`id`)
) ENGINE=InnoDB AUTO_INCREMENT=22 DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

--
-- Dumping data for table `entry`
--

LOCK TABLES `entry` WRITE;
/*!40000 ALTER TABLE `entry` DISABLE KEYS */;
INSERT INTO `entry` VALUES
(1,1,1,'board','board','{\"target\":\"HARRIER4\",\"line\":\"Marram\",\"version\":\"7.0.2\",\"settings\":{\"craft.name\":\"Dunlin\",\"craft.shape\":\"cross\",\"craft.whirl\":\"sunwise\",\"esc.A.turn\":\"normal\",\"esc.B.turn\":\"normal\",\"esc.C.turn\":\"normal\",\"esc.D.turn\":\"normal\",\"esc.beep\":\"40\",\"found.level.pitch\":\"0\",\"found.level.roll\":\"0\",\"gate.arm\":\"5:177:220\",\"gate.beep\":\"7:140:220\",\"gate.level\":\"6:140:220\",\"hear.dead\":\"2\",\"hear.flags\":\"2\",\"hear.low\":\"10\",\"hear.order\":\"AETR\",\"hear.span.pitch\":\"0:0:0\",\"hear.span.push\":\"0:0:0\",\"hear.span.roll\":\"0:0:0\",\"hear.span.yaw\":\"0:0:0\",\"hold.pitch\":\"48:120:65\",\"hold.roll\":\"45:120:60\",\"hold.yaw\":\"90:150:0\",\"lean.limit\":\"500\",\"lean.pull\":\"60\",\"loop.rate\":\"40\",\"mount.yaw\":\"0\",\"note.light\":\"3\",\"note.log\":\"off\",\"note.log.share\":\"2\",\"out.bits\":\"300\",\"out.flags\":\"1\",\"out.pairs\":\"7\",\"out.places\":\"fr:rl:fl:rr\",\"out.rest\":\"55\",\"out.wire\":\"bits\",\"port.1\":\"setup\",\"port.2\":\"receiver\",\"port.3\":\"none\",\"port.4\":\"none\",\"push.most\":\"60\",\"quiet.guard\":\"20\",\"quiet.push\":\"22\",\"quiet.then\":\"fall\",\"sense.flags\":\"0\",\"turn.pitch\":\"140:670:40\",\"turn.roll\":\"140:670:40\",\"turn.shape\":\"bow\",\"turn.yaw\":\"120:560:30\",\"view.mhz\":\"5780\",\"view.mw\":\"25\",\"volt.cells\":\"6\",\"volt.land\":\"3\",\"volt.land.part\":\"30\",\"volt.scale\":\"1100\",\"volt.warn\":\"3\",\"volt.warn.part\":\"50\"}}','2026-11-25 08:07:17.440'),
(2,1,1,'reading','readings.airframe.weight','{\"at\":\"2026-11-25T08:07:17.460852761Z\",\"bench\":false,\"input\":\"\",\"origin\":\"typed\",\"revision\":1,\"value\":715}','2026-11-25 08:07:17.460'),
(3,1,1,'reading','readings.airframe.clear','{\"at\":\"2026-11-25T08:07:17.479487782Z\",\"bench\":false,\"input\":\"\",\"origin\":\"typed\",\"revision\":1,\"value\":true}','2026-11-25 08:07:17.479'),
(4,1,1,'reading','readings.firstPower.propellersOff','{\"at\":\"2026-11-25T08:07:17.496855571Z\",\"bench\":false,\"input\":\"\",\"origin\":\"typed\",\"revision\":1,\"value\":true}','2026-11-25 08:07:17.496'),
(5,1,1,'reading','readings.firstPower.antennasOn','{\"at\":\"2026-11-25T08:07:17.522132252Z\",\"bench\":false,\"input\":\"\",\"origin\":\"typed\",\"revision\":1,\"value\":true}','2026-11-25 08:07:17.522'),
(6,1,1,'reading','readings.firstPower.leadResistance','{\"at\":\"2026-11-25T08:07:17.539034843Z\",\"bench\":false,\"input\":\"\",\"origin\":\"typed\",\"revision\":1,\"value\":{\"atOnce\":140,\"after\":8200}}','2026-11-25 08:07:17.539'),
(7,1,1,'reading','readings.firstPower.frameResistance','{\"at\":\"2026-11-25T08:07:17.555738406Z\",\"bench\":false,\"input\":\"\",\"origin\":\"typed\",\"revision\":1,\"value\":2200}','2026-11-25 08:07:17.555'),
(8,1,1,'reading','readings.firstPower.idleCurrent','{\"at\":\"2026-11-25T08:07:17.572279331Z\",\"bench\":false,\"input\":\"\",\"origin\":\"typed\",\"revision\":1,\"value\":0.46}','2026-11-25 08:07:17.572'),
(9,1,1,'reading','readings.firmware.identity','{\"at\":\"2026-11-25T08:07:17.588753245Z\",\"bench\":false,\"input\":\"\",\"origin\":\"typed\",\"revision\":1,\"value\":{\"target\":\"HARRIER4\",\"line\":\"Marram\",\"version\":\"7.0.2\"}}','2026-11-25 08:07:17.588'),
(10,1,1,'reading','readings.firmware.backup','{\"at\":\"2026-11-25T08:07:17.606372564Z\",\"bench\":false,\"input\":\"\",\"origin\":\"typed\",\"revision\":1,\"value\":{\"name\":\"before the first flash\",\"settings\":54,\"changed\":3,\"hash\":\"3f0c7b12\"}}','2026-11-25 08:07:17.606'),
(11,1,1,'reading','readings.wiring.receiverAnswers','{\"at\":\"2026-11-25T08:07:17.632618664Z\",\"bench\":false,\"input\":\"\",\"origin\":\"typed\",\"revision\":1,\"value\":true}','2026-11-25 08:07:17.632'),
(12,1,1,'reading','readings.link.channelsMove','{\"at\":\"2026-11-25T08:07:17.665036597Z\",\"bench\":false,\"input\":\"\",\"origin\":\"typed\",\"revision\":1,\"value\":true}','2026-11-25 08:07:17.665'),
(13,1,1,'reading','readings.link.range','{\"at\":\"2026-11-25T08:07:17.686053124Z\",\"bench\":false,\"input\":\"\",\"origin\":\"typed\",\"revision\":1,\"value\":96}','2026-11-25 08:07:17.686'),
(14,1,1,'signature','airframe','{\"station\":\"airframe\",\"at\":\"2026-11-25T08:07:17.713153815Z\",\"by\":\"the pilot\",\"revision\":1,\"relied\":{\"limits.thresholds.currentSpare.reason\":\"12ae32cb1ec02d01\",\"limits.thresholds.currentSpare.value\":\"5feceb66ffc86f38\",\"limits.thresholds.tipSpeed.reason\":\"12ae32cb1ec02d01\",\"limits.thresholds.tipSpeed.value\":\"5feceb66ffc86f38\",\"parts.board.cellsMax\":\"e7f6c011776e8db7\",\"parts.capacitor.capacitance\":\"40510175845988f1\",\"parts.capacitor.leadLength\":\"19581e27de7ced00\",\"parts.capacitor.rating\":\"9f14025af0065b30\",\"parts.capacitor.resistance\":\"4b227777d4dd1fc6\",\"parts.frame.tipGap\":\"19581e27de7ced00\",\"parts.motor.idleCurrent\":\"b05e244762b1e472\",\"parts.motor.kv\":\"b97d4904938f12a0\",\"parts.motor.peakCurrent\":\"71ee45a3c0db9a98\",\"parts.motor.resistance\":\"02d20bbd7e394ad5\",\"parts.packs.green.capacity\":\"a037a7dfaf26abe1\",\"parts.packs.green.cells\":\"e7f6c011776e8db7\",\"parts.packs.green.discharge\":\"2abaca4911e68fa9\",\"parts.packs.green.mass\":\"093434a3ee9e0a01\",\"parts.packs.green.resistance\":\"6f4b6612125fb3a0\",\"parts.packs.grey.capacity\":\"a037a7dfaf26abe1\",\"parts.packs.grey.cells\":\"e7f6c011776e8db7\",\"parts.packs.grey.discharge\":\"2abaca4911e68fa9\",\"parts.packs.grey.mass\":\"d86580a57f7bf542\",\"parts.packs.grey.resistance\":\"4ec9599fc203d176\",\"parts.propeller.diameter\":\"922c7954216ccfe7\",\"parts.propeller.power\":\"4469f737b2dd8040\",\"parts.propeller.thrust\":\"e6743df815da2b68\",\"parts.speedController.cellsMax\":\"e7f6c011776e8db7\",\"parts.speedController.cellsMin\":\"4e07408562bedb8b\",\"parts.speedController.continuous\":\"39fa9ec190eee7b6\",\"parts.video.cellsMax\":\"e7f6c011776e8db7\",\"pilot.thresholds.currentSpare.reason\":\"12ae32cb1ec02d01\",\"pilot.thresholds.currentSpare.value\":\"5feceb66ffc86f38\",\"pilot.thresholds.tipSpeed.reason\":\"12ae32cb1ec02d01\",\"pilot.thresholds.tipSpeed.value\":\"5feceb66ffc86f38\",\"readings.airframe.clear\":\"b5bea41b6c623f7c\",\"readings.airframe.weight\":\"35c71bd7eaf46070\"}}','2026-11-25 08:07:17.713'),
(15,1,1,'signature','first-power','{\"station\":\"first-power\",\"at\":\"2026-11-25T08:07:17.746947105Z\",\"by\":\"the pilot\",\"revision\":1,\"relied\":{\"parts.board.idleDraw\":\"9bdb2af6799204a2\",\"parts.capacitor.capacitance\":\"40510175845988f1\",\"parts.receiver.idleDraw\":\"811786ad1ae74adf\",\"parts.speedController.idleDraw\":\"69f59c273b6e669a\",\"parts.video.fitted\":\"b5bea41b6c623f7c\",\"parts.video.idleDraw\":\"2397346b45823e07\",\"readings.firstPower.antennasOn\":\"b5bea41b6c623f7c\",\"readings.firstPower.frameResistance\":\"2f8375d2a98f83f0\",\"readings.firstPower.idleCurrent\":\"ad9dadb817c4ea95\",\"readings.firstPower.leadResistance\":\"a3584d8b089f829e\",\"readings.firstPower.propellersOff\":\"b5bea41b6c623f7c\"}}','2026-11-25 08:07:17.747'),
(16,1,1,'signature','firmware','{\"station\":\"firmware\",\"at\":\"2026-11-25T08:07:17.785824304Z\",\"by\":\"the pilot\",\"revision\":1,\"relied\":{\"board.line\":\"e64a45ae860438eb\",\"board.target\":\"b351f6a3f789b8bb\",\"board.unmapped\":\"101996453e2092c8\",\"board.version\":\"fc74384c893a9e6e\",\"parts.board.target\":\"b351f6a3f789b8bb\",\"readings.firmware.backup\":\"d70b6dd9a5efcf3d\",\"readings.firmware.identity\":\"4eb650b7d0d1bd3a\",\"sheet.firmware.line\":\"e64a45ae860438eb\",\"sheet.firmware.other\":\"74234e98afe7498f\",\"sheet.firmware.target\":\"b351f6a3f789b8bb\",\"sheet.firmware.version\":\"fc74384c893a9e6e\"}}','2026-11-25 08:07:17.786'),
(17,1,1,'signature','wiring','{\"station\":\"wiring\",\"at\":\"2026-11-25T08:07:17.844358717Z\",\"by\":\"the pilot\",\"revision\":1,\"relied\":{\"board.line\":\"e64a45ae860438eb\",\"board.sheet.link.inverted\":\"fcbcf165908dd18a\",\"board.sheet.wiring.ports.1.function\":\"efd6883700d81363\",\"board.sheet.wiring.ports.2.function\":\"10534255a9b1a585\",\"board.sheet.wiring.ports.3.function\":\"47dbebec5d6543d8\",\"board.sheet.wiring.ports.4.function\":\"47dbebec5d6543d8\",\"parts.board.ports.1.inverts\":\"fcbcf165908dd18a\",\"parts.board.ports.2.inverts\":\"fcbcf165908dd18a\",\"parts.board.ports.3.inverts\":\"b5bea41b6c623f7c\",\"parts.board.ports.4.inverts\":\"fcbcf165908dd18a\",\"parts.receiver.inverted\":\"fcbcf165908dd18a\",\"parts.wires.receiver.port\":\"cc11310c456c3690\",\"readings.wiring.receiverAnswers\":\"b5bea41b6c623f7c\",\"sheet.link.inverted\":\"fcbcf165908dd18a\",\"sheet.wiring.ports.1.function\":\"efd6883700d81363\",\"sheet.wiring.ports.2.function\":\"10534255a9b1a585\",\"sheet.wiring.ports.3.function\":\"47dbebec5d6543d8\",\"sheet.wiring.ports.4.function\":\"47dbebec5d6543d8\"}}','2026-11-25 08:07:17.844'),
(18,1,1,'signature','link','{\"station\":\"link\",\"at\":\"2026-11-25T08:07:17.889644963Z\",\"by\":\"the pilot\",\"revision\":1,\"relied\":{\"board.line\":\"e64a45ae860438eb\",\"board.sheet.link.telemetry\":\"b5bea41b6c623f7c\",\"limits.controlPower\":\"ad57366865126e55\",\"limits.thresholds.linkQuality.reason\":\"12ae32cb1ec02d01\",\"limits.thresholds.linkQuality.value\":\"5feceb66ffc86f38\",\"parts.radioModule.band\":\"875e2424dc073fb3\",\"parts.radioModule.link\":\"d7d0355c7b78ad61\",\"parts.radioModule.power\":\"ad57366865126e55\",\"parts.radioModule.version\":\"87d28d1a49a79314\",\"parts.receiver.band\":\"875e2424dc073fb3\",\"parts.receiver.link\":\"d7d0355c7b78ad61\",\"parts.receiver.telemetry\":\"b5bea41b6c623f7c\",\"parts.receiver.version\":\"898ae34c41ab737e\",\"pilot.thresholds.linkQuality.reason\":\"12ae32cb1ec02d01\",\"pilot.thresholds.linkQuality.value\":\"5feceb66ffc86f38\",\"readings.link.channelsMove\":\"b5bea41b6c623f7c\",\"readings.link.range\":\"7b1a278f5abe8e9d\",\"sheet.link.telemetry\":\"b5bea41b6c623f7c\"}}','2026-11-25 08:07:17.890'),
(19,1,2,'reading','readings.airframe.weight','{\"at\":\"2026-11-25T08:07:17.933734198Z\",\"bench\":false,\"input\":\"\",\"origin\":\"typed\",\"revision\":1,\"value\":1260}','2026-11-25 08:07:17.933'),
(20,1,1,'event','crash','{\"event\":\"crash\",\"at\":\"2026-11-25T08:07:18.48588419Z\",\"note\":\"a tree\"}','2026-11-25 08:07:18.485'),
(21,1,1,'flight','flight','{\"at\":\"2026-11-25T08:07:18.525455591Z\",\"site\":\"the spit\",\"pack\":\"grey\",\"minutes\":3,\"drawn\":600,\"lowest\":21,\"notes\":\"it flew\",\"scope\":\"none\"}','2026-11-25 08:07:18.532');
/*!40000 ALTER TABLE `entry` ENABLE KEYS */;
UNLOCK TABLES;

--
-- Table structure for table `goose_db_version`
--

DROP TABLE IF EXISTS `goose_db_version`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `goose_db_version` (
  `id` bigint(20) unsigned NOT NULL AUTO_INCREMENT,
  `version_id` bigint(20) NOT NULL,
  `is_applied` tinyint(1) NOT NULL,
  `tstamp` datetime DEFAULT current_timestamp(),
  PRIMARY KEY (`id`)
) ENGINE=InnoDB AUTO_INCREMENT=4 DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

--
-- Dumping data for table `goose_db_version`
--

LOCK TABLES `goose_db_version` WRITE;
/*!40000 ALTER TABLE `goose_db_version` DISABLE KEYS */;
INSERT INTO `goose_db_version` VALUES
(1,0,1,'2026-11-25 08:07:17'),
(2,1,1,'2026-11-25 08:07:17'),
(3,2,1,'2026-11-25 08:07:17');
/*!40000 ALTER TABLE `goose_db_version` ENABLE KEYS */;
UNLOCK TABLES;

--
-- Table structure for table `lease`
--

DROP TABLE IF EXISTS `lease`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `lease` (
  `device` varchar(120) NOT NULL,
  `pilot_id` bigint(20) NOT NULL,
  `owner` char(32) NOT NULL,
  `until` datetime(3) NOT NULL,
  PRIMARY KEY (`device`),
  KEY `lease_pilot` (`pilot_id`),
  CONSTRAINT `lease_pilot` FOREIGN KEY (`pilot_id`) REFERENCES `pilot` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

--
-- Dumping data for table `lease`
--

LOCK TABLES `lease` WRITE;
/*!40000 ALTER TABLE `lease` DISABLE KEYS */;
INSERT INTO `lease` VALUES
('127.0.0.1:41643',1,'9f3d97c86d7ac6bc63929f449a78ae55','2026-11-25 08:07:31.964');
/*!40000 ALTER TABLE `lease` ENABLE KEYS */;
UNLOCK TABLES;

--
-- Table structure for table `pilot`
--

DROP TABLE IF EXISTS `pilot`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `pilot` (
  `id` bigint(20) NOT NULL AUTO_INCREMENT,
  `name` varchar(80) NOT NULL,
  `created_at` datetime(3) NOT NULL,
  `wants` longtext NOT NULL DEFAULT '{}',
  `version` bigint(20) NOT NULL DEFAULT 1,
  PRIMARY KEY (`id`)
) ENGINE=InnoDB AUTO_INCREMENT=2 DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

--
-- Dumping data for table `pilot`
--

LOCK TABLES `pilot` WRITE;
/*!40000 ALTER TABLE `pilot` DISABLE KEYS */;
INSERT INTO `pilot` VALUES
(1,'the pilot','2026-11-25 08:07:17.421','{}',1);
/*!40000 ALTER TABLE `pilot` ENABLE KEYS */;
UNLOCK TABLES;

--
-- Table structure for table `quad`
--

DROP TABLE IF EXISTS `quad`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `quad` (
  `id` bigint(20) NOT NULL AUTO_INCREMENT,
  `pilot_id` bigint(20) NOT NULL,
  `name` varchar(80) NOT NULL,
  `words` varchar(200) NOT NULL,
  `head` int(11) NOT NULL,
  `edits` longtext NOT NULL,
  `undone` longtext NOT NULL,
  `version` bigint(20) NOT NULL,
  `created_at` datetime(3) NOT NULL,
  PRIMARY KEY (`id`),
  UNIQUE KEY `quad_name` (`pilot_id`,`name`),
  CONSTRAINT `quad_pilot` FOREIGN KEY (`pilot_id`) REFERENCES `pilot` (`id`)
) ENGINE=InnoDB AUTO_INCREMENT=3 DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

--
-- Dumping data for table `quad`
--

LOCK TABLES `quad` WRITE;
/*!40000 ALTER TABLE `quad` DISABLE KEYS */;
INSERT INTO `quad` VALUES
(1,1,'Dunlin','5-inch freestyle, 6 cells, half set up',2,'[{\"path\":\"sheet.loss.guard\",\"before\":1,\"after\":0.8}]','[]',4,'2026-11-25 08:07:17.425'),
(2,1,'Sanderling','old plus-layout trainer, armed by stick',1,'[]','[]',1,'2026-11-25 08:07:17.923');
/*!40000 ALTER TABLE `quad` ENABLE KEYS */;
UNLOCK TABLES;

--
-- Table structure for table `revision`
--

DROP TABLE IF EXISTS `revision`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `revision` (
  `id` bigint(20) NOT NULL AUTO_INCREMENT,
  `pilot_id` bigint(20) NOT NULL,
  `quad_id` bigint(20) NOT NULL,
  `number` int(11) NOT NULL,
  `body` longtext NOT NULL,
  `hash` char(64) NOT NULL,
  `why` varchar(200) NOT NULL,
  `who` varchar(80) NOT NULL DEFAULT '',
  `created_at` datetime(3) NOT NULL,
  PRIMARY KEY (`id`),
  UNIQUE KEY `revision_number` (`quad_id`,`number`),
  KEY `revision_pilot` (`pilot_id`),
  CONSTRAINT `revision_pilot` FOREIGN KEY (`pilot_id`) REFERENCES `pilot` (`id`),
  CONSTRAINT `revision_quad` FOREIGN KEY (`quad_id`) REFERENCES `quad` (`id`)
) ENGINE=InnoDB AUTO_INCREMENT=4 DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

--
-- Dumping data for table `revision`
--

LOCK TABLES `revision` WRITE;
/*!40000 ALTER TABLE `revision` DISABLE KEYS */;
INSERT INTO `revision` VALUES
(1,1,1,1,'{\"format\":2,\"sheet\":{\"firmware\":{\"line\":\"Marram\",\"version\":\"7.0.2\",\"target\":\"HARRIER4\"},\"craft\":{\"layout\":\"x\",\"rotation\":\"frontLeftClockwise\"},\"wiring\":{\"ports\":{\"1\":{\"function\":\"configure\"},\"2\":{\"function\":\"receiver\"},\"3\":{\"function\":\"nothing\"},\"4\":{\"function\":\"nothing\"}}},\"link\":{\"inverted\":false,\"telemetry\":true,\"phrase\":\"\"},\"sticks\":{\"order\":\"AETR\",\"arm\":{\"channel\":5,\"from\":1885,\"to\":2100},\"selfLevel\":{\"channel\":6,\"from\":1700,\"to\":2100},\"beeper\":{\"channel\":7,\"from\":1700,\"to\":2100},\"ranges\":{\"roll\":{\"low\":0,\"centre\":0,\"high\":0},\"pitch\":{\"low\":0,\"centre\":0,\"high\":0},\"throttle\":{\"low\":0,\"centre\":0,\"high\":0},\"yaw\":{\"low\":0,\"centre\":0,\"high\":0}},\"deadband\":2,\"idleBelow\":1050},\"motors\":{\"outputs\":{\"A\":{\"corner\":\"frontRight\",\"reversed\":false},\"B\":{\"corner\":\"rearLeft\",\"reversed\":false},\"C\":{\"corner\":\"frontLeft\",\"reversed\":false},\"D\":{\"corner\":\"rearRight\",\"reversed\":false}},\"protocol\":\"digital\",\"bitRate\":300,\"twoWay\":true,\"loopRate\":4000,\"poles\":14,\"idle\":5.5},\"senses\":{\"boardYaw\":0,\"barometer\":false,\"satellite\":false},\"feel\":{\"family\":\"centrePeak\",\"roll\":{\"centre\":140,\"peak\":670,\"bend\":0.4},\"pitch\":{\"centre\":140,\"peak\":670,\"bend\":0.4},\"yaw\":{\"centre\":120,\"peak\":560,\"bend\":0.3},\"rollGains\":{\"proportional\":0.045,\"integral\":0.12,\"derivative\":0.0006},\"pitchGains\":{\"proportional\":0.048,\"integral\":0.12,\"derivative\":0.00065},\"yawGains\":{\"proportional\":0.09,\"integral\":0.15,\"derivative\":0},\"angleLimit\":50,\"levelStrength\":6,\"throttleLimit\":60},\"watch\":{\"cells\":6,\"warnPerCell\":3.5,\"landPerCell\":3.3},\"loss\":{\"guard\":1,\"policy\":\"drop\",\"landThrottle\":22},\"picture\":{\"frequency\":5780,\"power\":25}},\"parts\":{\"frame\":{\"name\":\"Tern Five\",\"armFront\":80,\"armSide\":80,\"legHeight\":25,\"tipGap\":9,\"dragArea\":120,\"mass\":495},\"motor\":{\"name\":\"Sandpiper 2207\",\"kv\":1700,\"resistance\":55,\"idleCurrent\":1.1,\"poles\":14,\"peakCurrent\":44,\"timeConstant\":30},\"propeller\":{\"name\":\"three blades 5 in\",\"diameter\":127,\"thrust\":0.18,\"power\":0.12,\"reversed\":0.5,\"nutTorque\":1.2},\"speedController\":{\"name\":\"Causeway 60\",\"continuous\":60,\"cellsMin\":3,\"cellsMax\":6,\"twoWay\":true,\"idleDraw\":90},\"board\":{\"name\":\"Harrier Four\",\"target\":\"HARRIER4\",\"cellsMax\":6,\"idleDraw\":110,\"outputs\":[\"A\",\"B\",\"C\",\"D\"],\"ports\":{\"1\":{\"inverts\":false},\"2\":{\"inverts\":false},\"3\":{\"inverts\":true},\"4\":{\"inverts\":false}}},\"packs\":{\"green\":{\"cells\":6,\"capacity\":1300,\"discharge\":120,\"resistance\":21,\"mass\":211},\"grey\":{\"cells\":6,\"capacity\":1300,\"discharge\":120,\"resistance\":18,\"mass\":215}},\"receiver\":{\"name\":\"reed\",\"link\":\"Tidewire\",\"version\":\"6.1.0\",\"band\":\"2.4 GHz\",\"inverted\":false,\"telemetry\":true,\"idleDraw\":45},\"radioModule\":{\"name\":\"Estuary internal\",\"link\":\"Tidewire\",\"version\":\"6.2.1\",\"band\":\"2.4 GHz\",\"power\":100},\"video\":{\"name\":\"small analog\",\"fitted\":true,\"cellsMax\":6,\"idleDraw\":190},\"capacitor\":{\"capacitance\":1000,\"rating\":35,\"resistance\":4,\"leadLength\":9},\"wires\":{\"receiver\":{\"port\":\"2\"}}},\"radio\":{\"order\":\"AETR\",\"travel\":100,\"switches\":{\"left face\":{\"channel\":7,\"positions\":[\"quiet\",\"beeper\"],\"rest\":\"quiet\"},\"left shoulder\":{\"channel\":5,\"positions\":[\"safe\",\"armed\"],\"rest\":\"safe\"},\"right shoulder\":{\"channel\":6,\"positions\":[\"acro\",\"level\"],\"rest\":\"level\"}}},\"limits\":{\"country\":\"Sallow Spit\",\"videoPower\":25,\"videoLow\":5725,\"videoHigh\":5875,\"controlPower\":100,\"height\":120,\"thresholds\":{\"currentSpare\":{\"value\":0,\"reason\":\"\"},\"tipSpeed\":{\"value\":0,\"reason\":\"\"},\"linkQuality\":{\"value\":0,\"reason\":\"\"},\"level\":{\"value\":0,\"reason\":\"\"},\"wind\":{\"value\":0,\"reason\":\"\"},\"drift\":{\"value\":0,\"reason\":\"\"}}}}','4436ee5e774e71f2babe18c1db7c77abe035492ad287d493c38f52beb2612ed5','made','the pilot','2026-11-25 08:07:17.425'),
(2,1,2,1,'{\"format\":2,\"sheet\":{\"firmware\":{\"line\":\"Shingle\",\"version\":\"2.4.0\",\"target\":\"OLDPIER\"},\"craft\":{\"layout\":\"plus\",\"rotation\":\"frontLeftClockwise\"},\"wiring\":{\"ports\":{\"1\":{\"function\":\"configure\"},\"2\":{\"function\":\"nothing\"},\"3\":{\"function\":\"receiver\"}}},\"link\":{\"inverted\":true,\"telemetry\":false,\"phrase\":\"\"},\"sticks\":{\"order\":\"TAER\",\"arm\":{\"channel\":0,\"from\":0,\"to\":0},\"selfLevel\":{\"channel\":5,\"from\":900,\"to\":1700},\"beeper\":{\"channel\":0,\"from\":0,\"to\":0},\"ranges\":{\"roll\":{\"low\":0,\"centre\":0,\"high\":0},\"pitch\":{\"low\":0,\"centre\":0,\"high\":0},\"throttle\":{\"low\":0,\"centre\":0,\"high\":0},\"yaw\":{\"low\":0,\"centre\":0,\"high\":0}},\"deadband\":4,\"idleBelow\":1060},\"motors\":{\"outputs\":{\"A\":{\"corner\":\"frontLeft\",\"reversed\":false},\"B\":{\"corner\":\"frontRight\",\"reversed\":false},\"C\":{\"corner\":\"rearRight\",\"reversed\":false},\"D\":{\"corner\":\"rearLeft\",\"reversed\":false}},\"protocol\":\"pulse\",\"bitRate\":0,\"twoWay\":false,\"loopRate\":1000,\"poles\":14,\"idle\":8},\"senses\":{\"boardYaw\":0,\"barometer\":true,\"satellite\":false},\"feel\":{\"family\":\"straightExpo\",\"roll\":{\"centre\":200,\"peak\":360,\"bend\":0.5},\"pitch\":{\"centre\":200,\"peak\":360,\"bend\":0.5},\"yaw\":{\"centre\":120,\"peak\":200,\"bend\":0.3},\"rollGains\":{\"proportional\":0.06,\"integral\":0.1,\"derivative\":0.0008},\"pitchGains\":{\"proportional\":0.06,\"integral\":0.1,\"derivative\":0.0008},\"yawGains\":{\"proportional\":0.12,\"integral\":0.1,\"derivative\":0},\"angleLimit\":35,\"levelStrength\":4,\"throttleLimit\":100},\"watch\":{\"cells\":3,\"warnPerCell\":3.5,\"landPerCell\":3.3},\"loss\":{\"guard\":2,\"policy\":\"land\",\"landThrottle\":30},\"picture\":{\"frequency\":0,\"power\":0}},\"parts\":{\"frame\":{\"name\":\"broomstick\",\"armFront\":225,\"armSide\":225,\"legHeight\":90,\"tipGap\":60,\"dragArea\":420,\"mass\":980},\"motor\":{\"name\":\"Turnstile 2212\",\"kv\":920,\"resistance\":110,\"idleCurrent\":0.6,\"poles\":14,\"peakCurrent\":15,\"timeConstant\":70},\"propeller\":{\"name\":\"two blades 10 in\",\"diameter\":254,\"thrust\":0.11,\"power\":0.045,\"reversed\":0.5,\"nutTorque\":1},\"speedController\":{\"name\":\"plain 20\",\"continuous\":20,\"cellsMin\":2,\"cellsMax\":4,\"twoWay\":false,\"idleDraw\":60},\"board\":{\"name\":\"Old Pier\",\"target\":\"OLDPIER\",\"cellsMax\":4,\"idleDraw\":120,\"outputs\":[\"A\",\"B\",\"C\",\"D\"],\"ports\":{\"1\":{\"inverts\":false},\"2\":{\"inverts\":false},\"3\":{\"inverts\":true}}},\"packs\":{\"long\":{\"cells\":3,\"capacity\":3300,\"discharge\":30,\"resistance\":24,\"mass\":260}},\"receiver\":{\"name\":\"ditch\",\"link\":\"Groyne\",\"version\":\"2.0.0\",\"band\":\"2.4 GHz\",\"inverted\":true,\"telemetry\":false,\"idleDraw\":40},\"radioModule\":{\"name\":\"Estuary external\",\"link\":\"Groyne\",\"version\":\"2.1.0\",\"band\":\"2.4 GHz\",\"power\":100},\"video\":{\"name\":\"\",\"fitted\":false,\"cellsMax\":0,\"idleDraw\":0},\"capacitor\":{\"capacitance\":470,\"rating\":25,\"resistance\":12,\"leadLength\":14},\"wires\":{\"receiver\":{\"port\":\"3\"}}},\"radio\":{\"order\":\"TAER\",\"travel\":100,\"switches\":{\"right shoulder\":{\"channel\":5,\"positions\":[\"level\",\"acro\"],\"rest\":\"level\"}}},\"limits\":{\"country\":\"Sallow Spit\",\"videoPower\":25,\"videoLow\":5725,\"videoHigh\":5875,\"controlPower\":100,\"height\":120,\"thresholds\":{\"currentSpare\":{\"value\":0,\"reason\":\"\"},\"tipSpeed\":{\"value\":0,\"reason\":\"\"},\"linkQuality\":{\"value\":0,\"reason\":\"\"},\"level\":{\"value\":0,\"reason\":\"\"},\"wind\":{\"value\":0,\"reason\":\"\"},\"drift\":{\"value\":0,\"reason\":\"\"}}}}','46696dcf67e7d08040419ef28902708004d07617fa56e26923a669434bca6711','made','the pilot','2026-11-25 08:07:17.923'),
(3,1,1,2,'{\"format\":2,\"sheet\":{\"firmware\":{\"line\":\"Marram\",\"version\":\"7.0.2\",\"target\":\"HARRIER4\"},\"craft\":{\"layout\":\"x\",\"rotation\":\"frontLeftClockwise\"},\"wiring\":{\"ports\":{\"1\":{\"function\":\"configure\"},\"2\":{\"function\":\"receiver\"},\"3\":{\"function\":\"nothing\"},\"4\":{\"function\":\"nothing\"}}},\"link\":{\"inverted\":false,\"telemetry\":true,\"phrase\":\"\"},\"sticks\":{\"order\":\"AETR\",\"arm\":{\"channel\":5,\"from\":1885,\"to\":2100},\"selfLevel\":{\"channel\":6,\"from\":1700,\"to\":2100},\"beeper\":{\"channel\":7,\"from\":1700,\"to\":2100},\"ranges\":{\"roll\":{\"low\":0,\"centre\":0,\"high\":0},\"pitch\":{\"low\":0,\"centre\":0,\"high\":0},\"throttle\":{\"low\":0,\"centre\":0,\"high\":0},\"yaw\":{\"low\":0,\"centre\":0,\"high\":0}},\"deadband\":2,\"idleBelow\":1050},\"motors\":{\"outputs\":{\"A\":{\"corner\":\"frontRight\",\"reversed\":false},\"B\":{\"corner\":\"rearLeft\",\"reversed\":false},\"C\":{\"corner\":\"frontLeft\",\"reversed\":false},\"D\":{\"corner\":\"rearRight\",\"reversed\":false}},\"protocol\":\"digital\",\"bitRate\":300,\"twoWay\":true,\"loopRate\":4000,\"poles\":14,\"idle\":6.5},\"senses\":{\"boardYaw\":0,\"barometer\":false,\"satellite\":false},\"feel\":{\"family\":\"centrePeak\",\"roll\":{\"centre\":140,\"peak\":670,\"bend\":0.4},\"pitch\":{\"centre\":140,\"peak\":670,\"bend\":0.4},\"yaw\":{\"centre\":120,\"peak\":560,\"bend\":0.3},\"rollGains\":{\"proportional\":0.045,\"integral\":0.12,\"derivative\":0.0006},\"pitchGains\":{\"proportional\":0.048,\"integral\":0.12,\"derivative\":0.00065},\"yawGains\":{\"proportional\":0.09,\"integral\":0.15,\"derivative\":0},\"angleLimit\":50,\"levelStrength\":6,\"throttleLimit\":60},\"watch\":{\"cells\":6,\"warnPerCell\":3.5,\"landPerCell\":3.3},\"loss\":{\"guard\":1,\"policy\":\"drop\",\"landThrottle\":22},\"picture\":{\"frequency\":5780,\"power\":25}},\"parts\":{\"frame\":{\"name\":\"Tern Five\",\"armFront\":80,\"armSide\":80,\"legHeight\":25,\"tipGap\":9,\"dragArea\":120,\"mass\":495},\"motor\":{\"name\":\"Sandpiper 2207\",\"kv\":1700,\"resistance\":55,\"idleCurrent\":1.1,\"poles\":14,\"peakCurrent\":44,\"timeConstant\":30},\"propeller\":{\"name\":\"three blades 5 in\",\"diameter\":127,\"thrust\":0.18,\"power\":0.12,\"reversed\":0.5,\"nutTorque\":1.2},\"speedController\":{\"name\":\"Causeway 60\",\"continuous\":60,\"cellsMin\":3,\"cellsMax\":6,\"twoWay\":true,\"idleDraw\":90},\"board\":{\"name\":\"Harrier Four\",\"target\":\"HARRIER4\",\"cellsMax\":6,\"idleDraw\":110,\"outputs\":[\"A\",\"B\",\"C\",\"D\"],\"ports\":{\"1\":{\"inverts\":false},\"2\":{\"inverts\":false},\"3\":{\"inverts\":true},\"4\":{\"inverts\":false}}},\"packs\":{\"green\":{\"cells\":6,\"capacity\":1300,\"discharge\":120,\"resistance\":21,\"mass\":211},\"grey\":{\"cells\":6,\"capacity\":1300,\"discharge\":120,\"resistance\":18,\"mass\":215}},\"receiver\":{\"name\":\"reed\",\"link\":\"Tidewire\",\"version\":\"6.1.0\",\"band\":\"2.4 GHz\",\"inverted\":false,\"telemetry\":true,\"idleDraw\":45},\"radioModule\":{\"name\":\"Estuary internal\",\"link\":\"Tidewire\",\"version\":\"6.2.1\",\"band\":\"2.4 GHz\",\"power\":100},\"video\":{\"name\":\"small analog\",\"fitted\":true,\"cellsMax\":6,\"idleDraw\":190},\"capacitor\":{\"capacitance\":1000,\"rating\":35,\"resistance\":4,\"leadLength\":9},\"wires\":{\"receiver\":{\"port\":\"2\"}}},\"radio\":{\"order\":\"AETR\",\"travel\":100,\"switches\":{\"left face\":{\"channel\":7,\"positions\":[\"quiet\",\"beeper\"],\"rest\":\"quiet\"},\"left shoulder\":{\"channel\":5,\"positions\":[\"safe\",\"armed\"],\"rest\":\"safe\"},\"right shoulder\":{\"channel\":6,\"positions\":[\"acro\",\"level\"],\"rest\":\"level\"}}},\"limits\":{\"country\":\"Sallow Spit\",\"videoPower\":25,\"videoLow\":5725,\"videoHigh\":5875,\"controlPower\":100,\"height\":120,\"thresholds\":{\"currentSpare\":{\"value\":0,\"reason\":\"\"},\"tipSpeed\":{\"value\":0,\"reason\":\"\"},\"linkQuality\":{\"value\":0,\"reason\":\"\"},\"level\":{\"value\":0,\"reason\":\"\"},\"wind\":{\"value\":0,\"reason\":\"\"},\"drift\":{\"value\":0,\"reason\":\"\"}}}}','5d21d6e58b8e82c545e7bfaa6766c1d87bb20f2e6da1b85264f5c92935c51647','more idle','the pilot','2026-11-25 08:07:26.258');
/*!40000 ALTER TABLE `revision` ENABLE KEYS */;
UNLOCK TABLES;
/*!40103 SET TIME_ZONE=@OLD_TIME_ZONE */;

/*!40101 SET SQL_MODE=@OLD_SQL_MODE */;
/*!40014 SET FOREIGN_KEY_CHECKS=@OLD_FOREIGN_KEY_CHECKS */;
/*!40014 SET UNIQUE_CHECKS=@OLD_UNIQUE_CHECKS */;
/*!40101 SET CHARACTER_SET_CLIENT=@OLD_CHARACTER_SET_CLIENT */;
/*!40101 SET CHARACTER_SET_RESULTS=@OLD_CHARACTER_SET_RESULTS */;
/*!40101 SET COLLATION_CONNECTION=@OLD_COLLATION_CONNECTION */;
/*!40111 SET SQL_NOTES=@OLD_SQL_NOTES */;

-- Dump completed on 2026-11-25  8:07:27
